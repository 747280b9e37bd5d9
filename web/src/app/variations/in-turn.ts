import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { applyVariation, notesEnd, type Patch, phraseToNotes } from '@hurrel/core';
import { LiveService } from '../sound/live.service';

/** Seconds of rest between two. */
const REST = 0.35;

/** A patch and its variations, heard one after the other, round and round, until somebody stops it. */
@Injectable()
export class InTurn {
  private readonly live = inject(LiveService);
  /** The one that is heard, by its id; empty for the patch itself; null while nothing is. */
  readonly heard = signal<string | null>(null);
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  start(patch: () => Patch | null | undefined): void {
    this.stop();
    this.step(patch, 0);
  }

  stop(): void {
    clearTimeout(this.timer);
    if (this.heard() === null) return;
    this.heard.set(null);
    this.live.stop();
  }

  private step(of: () => Patch | null | undefined, at: number): void {
    const patch = of();
    if (!patch) return this.stop();
    const all = [undefined, ...patch.variations];
    const variation = all[at % all.length];
    const state = variation ? applyVariation(patch, variation) : patch;
    this.heard.set(variation?.id ?? '');
    this.live.playInstead(state, state.phrase);
    const seconds = notesEnd(phraseToNotes(state.phrase, state.tempo)) + REST;
    this.timer = setTimeout(() => this.step(of, at + 1), 1000 * Math.max(1, seconds));
  }
}
