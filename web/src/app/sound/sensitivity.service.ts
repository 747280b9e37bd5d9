import { computed, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  gradeOf,
  type Instrument,
  type Patch,
  rank,
  type Sensitivity,
  sensitiveControls,
} from '@hurrel/core';
import { proxy } from 'comlink';
import { ask } from '../workers/ask';
import type { SensitivityRequest, SensitivityWorker } from './messages';
import { startWorker } from '../workers/start';

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
  private work: AbortController | null = null;

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
    const work = (this.work = new AbortController());
    const take = (weight: Sensitivity): void => {
      if (!work.signal.aborted) this.take(weight);
    };
    for (const half of [0, 1]) {
      const share = controls.filter((_, i) => i % 2 === half);
      if (share.length === 0) continue;
      const worker = startWorker('sensitivity');
      const request: SensitivityRequest = { instrument, patch, note, controls: share };
      ask<SensitivityWorker, void>(
        worker,
        (of) => of.sensitivities(request, proxy(take)),
        work.signal,
      ).catch((error: Error) => {
        if (work.signal.aborted) return;
        this.fault.set(`The controls could not be weighed: ${error.message}`);
        this.stop();
      });
    }
  }

  stop(): void {
    this.work?.abort();
    this.work = null;
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
    if (this.weights().length === this.total()) this.running.set(false);
  }
}
