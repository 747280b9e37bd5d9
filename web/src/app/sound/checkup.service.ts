import { computed, Injectable, type OnDestroy, signal } from '@angular/core';
import type { Finding, Instrument, Patch, Severity } from '@hurrel/core';
import type { Remote } from 'comlink';
import type { CheckupWorker } from './messages';
import { remote } from '../workers/resting';
import { leaveWorker, startWorker } from '../workers/start';

interface Wish {
  instrument: Instrument;
  patch: Patch;
}

/** Milliseconds without another edit after which a patch is examined. */
const REST = 250;

/**
 * What the doctor says of the patch that is open, held against its sound in a worker. While one patch is examined only the
 * newest waits; until its answer is there `checking` is true, and what stands is of the patch before.
 */
@Injectable()
export class CheckupService implements OnDestroy {
  private readonly found = signal<readonly Finding[]>([]);
  private readonly patch = signal<Patch | null>(null);
  /** As they were found, with what the patch says of them by now. */
  readonly findings = computed(() =>
    this.found().map(({ meant: _then, ...f }): Finding => {
      const meant = this.patch()?.meant[f.id];
      return meant === undefined ? f : { ...f, meant };
    }),
  );
  readonly checking = signal(true);
  /** The worst that is open of each control. */
  readonly faults = computed(() => {
    const faults = new Map<string, Severity>();
    const open = this.findings().filter((f) => f.meant === undefined);
    // Worst last, so that it is the one that shows.
    for (const { controls, severity } of open.toReversed()) {
      for (const id of controls) faults.set(id, severity);
    }
    return faults;
  });

  private readonly worker = startWorker('checkup');
  private readonly ask: Remote<CheckupWorker> = remote(this.worker);
  private waiting: Wish | null = null;
  private busy = false;
  private sent: Instrument | null = null;
  private resting: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    this.worker.onerror = () => this.goOn();
  }

  examine(instrument: Instrument, patch: Patch): void {
    this.waiting = { instrument, patch };
    this.patch.set(patch);
    this.checking.set(true);
    clearTimeout(this.resting);
    this.resting = setTimeout(() => !this.busy && void this.next(), REST);
  }

  ngOnDestroy(): void {
    clearTimeout(this.resting);
    if (this.busy) this.worker.terminate();
    else leaveWorker(this.worker);
  }

  private goOn(): void {
    this.busy = false;
    if (this.waiting) void this.next();
  }

  private async next(): Promise<void> {
    const wish = this.waiting;
    if (!wish) return;
    this.waiting = null;
    this.busy = true;
    const { instrument, patch } = wish;
    // The instrument is large and seldom another: the worker keeps the last one.
    const request = instrument === this.sent ? { patch } : wish;
    this.sent = instrument;
    try {
      const findings = await this.ask.checkup(request);
      this.found.set(findings);
      if (!this.waiting) this.checking.set(false);
    } catch {
      // What cannot be computed is not called sound either; the next edit is tried again.
      this.sent = null;
    }
    this.goOn();
  }
}
