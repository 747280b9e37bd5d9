import { computed, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  gradeOf,
  type Instrument,
  type Patch,
  rank,
  type Sensitivity,
  sensitiveControls,
} from '@hurrel/core';
import type { WeighAnswer, WeighRequest } from './messages';

/** Which controls matter in the patch that is open: weighed in two workers, with progress, to be stopped at any time. */
@Injectable()
export class SensitivityService implements OnDestroy {
  readonly weights = signal<Sensitivity[]>([]);
  readonly total = signal(0);
  readonly running = signal(false);
  readonly fault = signal('');
  readonly done = computed(() => this.weights().length);
  readonly ranked = computed(() => rank(this.weights()));
  /** Grade of each control once all are weighed, 0 to 3. */
  readonly grades = computed(() =>
    this.running()
      ? new Map<string, number>()
      : new Map(this.weights().map((w) => [w.control, gradeOf(w)])),
  );
  /** The settings that were weighed: others may have been made since. */
  private readonly weighed = signal<Patch['settings'] | null>(null);
  private workers: Worker[] = [];

  /** Whether the weights are those of a patch as it is now. */
  isOf(patch: Patch): boolean {
    return this.weighed() === patch.settings;
  }

  start(instrument: Instrument, patch: Patch, note: number): void {
    this.stop();
    const controls = sensitiveControls(instrument, patch);
    this.weights.set([]);
    this.fault.set('');
    this.total.set(controls.length);
    this.weighed.set(patch.settings);
    if (controls.length === 0) return;
    this.running.set(true);
    for (const half of [0, 1]) {
      const share = controls.filter((_, i) => i % 2 === half);
      if (share.length === 0) continue;
      const worker = new Worker(new URL('./sensitivity.worker', import.meta.url), {
        type: 'module',
      });
      worker.onmessage = ({ data }: MessageEvent<WeighAnswer>) => this.take(data);
      worker.onerror = (event) => {
        this.fault.set(`The controls could not be weighed: ${event.message}`);
        this.stop();
      };
      const request: WeighRequest = { instrument, patch, note, controls: share };
      worker.postMessage(request);
      this.workers.push(worker);
    }
  }

  stop(): void {
    for (const worker of this.workers) worker.terminate();
    this.workers = [];
    if (this.running()) {
      this.weights.set([]);
      this.weighed.set(null);
    }
    this.running.set(false);
  }

  ngOnDestroy(): void {
    this.stop();
  }

  private take(weight: Sensitivity): void {
    this.weights.update((all) => [...all, weight]);
    if (this.weights().length < this.total()) return;
    for (const worker of this.workers) worker.terminate();
    this.workers = [];
    this.running.set(false);
  }
}
