import { Injectable, type OnDestroy, signal } from '@angular/core';
import type { Instrument, Patch, Picture } from '@hurrel/core';
import { proxy, type Remote } from 'comlink';
import type { PreviewWorker } from './messages';
import { remote } from '../workers/resting';
import { leaveWorker, startWorker } from '../workers/start';

interface Wish {
  instrument: Instrument;
  patch: Patch;
  note: number;
}

/** From how many milliseconds on a first picture is so much work that it waits until the hand rests. */
const HEAVY = 250;
/** Milliseconds without another wish after which the hand counts as resting. */
const REST = 300;

/**
 * Pictures of the patch that is open, made in a worker. While one is being made only the newest wish waits:
 * a control that is being turned is followed as fast as the machine can, and never falls behind. Patches that take long
 * to compute are followed whenever the hand rests, so that keys and frames are not kept waiting.
 */
@Injectable()
export class PreviewService implements OnDestroy {
  readonly picture = signal<Picture | null>(null);

  private readonly worker = startWorker('preview');
  private readonly ask: Remote<PreviewWorker> = remote(this.worker);
  private busy = false;
  private waiting: Wish | null = null;
  /** The request whose pictures are shown: an early one that comes late is another's. */
  private current = 0;
  private sent: Instrument | null = null;
  private began = 0;
  /** Milliseconds that the last request took to its first picture; NaN until that has come. */
  private took = 0;
  private resting: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    this.worker.onerror = () => this.goOn();
  }

  look(instrument: Instrument, patch: Patch, note: number): void {
    this.waiting = { instrument, patch, note };
    if (!this.busy || this.resting !== undefined) this.soon();
  }

  ngOnDestroy(): void {
    clearTimeout(this.resting);
    const atWork = this.busy && this.resting === undefined;
    if (atWork) this.worker.terminate();
    else leaveWorker(this.worker);
  }

  private take(picture: Picture): void {
    this.picture.set(picture);
    if (Number.isNaN(this.took)) this.took = performance.now() - this.began;
  }

  private goOn(): void {
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
        void this.next();
      },
      this.took > HEAVY ? REST : 0,
    );
  }

  private async next(): Promise<void> {
    const wish = this.waiting;
    this.waiting = null;
    this.busy = wish !== null;
    if (!wish) return;
    // The instrument is large and seldom another: the worker keeps the last one.
    const { instrument, ...rest } = wish;
    const request = instrument === this.sent ? rest : wish;
    this.sent = instrument;
    this.began = performance.now();
    this.took = NaN;
    const mine = ++this.current;
    const early = proxy((picture: Picture) => {
      if (mine === this.current) this.take(picture);
    });
    try {
      const picture = await this.ask.preview(request, early);
      this.current++;
      this.take(picture);
    } catch {
      // What cannot be computed has no picture; the next wish is tried again.
      this.sent = null;
    }
    this.goOn();
  }
}
