import { computed, Injectable, type OnDestroy, signal } from '@angular/core';
import type { Finding, Instrument, Patch, Picture, Severity } from '@hurrel/core';
import type { LookAnswer, LookRequest } from './messages';

/** From how many milliseconds on a first picture is so much work that it waits until the hand rests. */
const HEAVY = 250;
/** Milliseconds without another wish after which the hand counts as resting. */
const REST = 300;

/**
 * Pictures and findings of the patch that is open, made in a worker. While one is being made only the newest wish waits:
 * a control that is being turned is followed as fast as the machine can, and never falls behind. Patches that take long
 * to compute are followed whenever the hand rests, so that keys and frames are not kept waiting.
 */
@Injectable()
export class PreviewService implements OnDestroy {
  readonly picture = signal<Picture | null>(null);
  readonly findings = signal<Finding[]>([]);
  /** The worst that is open of each control. */
  readonly faults = computed(() => {
    const faults = new Map<string, Severity>();
    const open = this.findings().filter((f) => f.meant === undefined);
    // Worst last, so that it is the one that shows.
    for (const { controls, severity } of open.reverse()) {
      for (const id of controls) faults.set(id, severity);
    }
    return faults;
  });

  private readonly worker = new Worker(new URL('./preview.worker', import.meta.url), {
    type: 'module',
  });
  private busy = false;
  private waiting: LookRequest | null = null;
  private count = 0;
  private sent: Instrument | null = null;
  private began = 0;
  /** Milliseconds that the last request took to its first picture; NaN until that has come. */
  private took = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    this.worker.onmessage = ({ data }: MessageEvent<LookAnswer>) => this.take(data);
    this.worker.onerror = () => this.next();
  }

  look(instrument: Instrument, patch: Patch, note: number): void {
    this.waiting = { id: ++this.count, instrument, patch, note };
    if (!this.busy || this.resting !== undefined) this.soon();
  }

  ngOnDestroy(): void {
    clearTimeout(this.resting);
    this.worker.terminate();
  }

  private take(answer: LookAnswer): void {
    this.picture.set(answer.picture);
    this.findings.set(answer.findings);
    if (Number.isNaN(this.took)) this.took = performance.now() - this.began;
    if (!answer.done) return;
    if (this.waiting) this.soon();
    else this.busy = false;
  }

  /** After the frame that shows the edit itself: the worker must not take the machine away from it. */
  private soon(): void {
    this.busy = true;
    clearTimeout(this.resting);
    this.resting = setTimeout(
      () => {
        this.resting = undefined;
        this.next();
      },
      this.took > HEAVY ? REST : 0,
    );
  }

  private next(): void {
    const request = this.waiting;
    this.waiting = null;
    this.busy = request !== null;
    if (!request) return;
    // The instrument is large and seldom another: the worker keeps the last one.
    const { instrument, ...rest } = request;
    const known = instrument === this.sent;
    this.sent = instrument;
    this.began = performance.now();
    this.took = NaN;
    this.worker.postMessage(known ? rest : request);
  }
}
