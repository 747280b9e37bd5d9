import { effect, inject, Injectable, signal, untracked } from '@angular/core';
import { LiveService } from '../sound/live.service';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';
import { TrackView } from './track-view';

/** Keys that are played write notes where one stands, or where the pattern runs. */
@Injectable()
export class PlayIn {
  private readonly live = inject(LiveService);
  private readonly sequence = inject(SequenceService);
  private readonly runner = inject(RunnerService);
  private readonly view = inject(TrackView);
  readonly on = signal(false);
  private heldBefore: ReadonlySet<number> = new Set();

  constructor() {
    effect(() => {
      const held = this.live.held();
      untracked(() => this.take(held));
    });
  }

  private take(held: ReadonlySet<number>): void {
    const fresh = [...held].filter((n) => !this.heldBefore.has(n));
    const letGo = held.size === 0 && this.heldBefore.size > 0;
    this.heldBefore = held;
    const track = this.sequence.track();
    if (!this.on() || !track || this.view.kind() !== 'steps') return;
    const runs = this.runner.stepOfTrack(track, this.sequence.cursor().track);
    if (fresh.length > 0) {
      if (runs >= 0) this.sequence.go(this.sequence.cursor().track, runs);
      const { tie: _, ...old } = this.sequence.step();
      const together = this.sequence.can().together;
      // Keys struck together are one step; with one voice the last one counts.
      const notes =
        together > 1 && held.size > fresh.length ? [...(old.notes ?? []), ...fresh] : fresh;
      this.sequence.editStep({ ...old, notes: notes.slice(-together) });
    } else if (letGo && runs < 0) {
      const { track: row, step } = this.sequence.cursor();
      this.sequence.go(row, (step + 1) % track.length);
    }
  }
}
