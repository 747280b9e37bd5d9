import { inject, Injectable } from '@angular/core';
import {
  type Direction,
  patternSchema,
  quantise,
  stepOf,
  type StepRate,
  type Track,
  withStep,
} from '@hurrel/core';
import { ToastService } from '../ui/toasts';
import { SequenceService } from './sequence.service';

/** What hands do to the steps of the track one stands on: struck, drawn, held on, cleared. */
@Injectable()
export class StepEdits {
  private readonly sequence = inject(SequenceService);
  private readonly toasts = inject(ToastService);
  private readonly track = this.sequence.track;

  /** Strikes the step one stands on, or silences it. */
  strike(): void {
    const [track, step] = [this.track(), this.sequence.step()];
    if (!track || this.sequence.cursor().step >= track.length) return;
    if (step.notes || step.tie) this.sequence.editStep({});
    else this.sequence.editStep({ ...step, notes: [this.sequence.ownNote(track)] });
  }

  clear(): void {
    let track = this.track();
    if (!track) return;
    const { step } = this.sequence.cursor();
    for (let i = 0; i < this.sequence.extent(); i++) track = withStep(track, step + i, {});
    this.sequence.editTrack(track);
  }

  strikeNote({ step, note }: { step: number; note: number }): void {
    const track = this.track();
    if (!track) return;
    this.sequence.go(this.sequence.cursor().track, step);
    const old = stepOf(track, step);
    const { notes = [], tie: _, ...rest } = old;
    const without = notes.filter((n) => n !== note);
    if (without.length < notes.length) {
      this.sequence.editStep(without.length > 0 ? { ...old, notes: without } : {});
      return;
    }
    const together = this.sequence.can().together;
    this.sequence.editStep({ ...rest, notes: [...(together > 1 ? notes : []), note] });
  }

  hold({ from, through, gesture }: { from: number; through: number; gesture: string }): void {
    let track = this.track();
    if (!track || !this.sequence.can().tie) return;
    for (let i = from + 1; i <= through; i++) track = withStep(track, i, { tie: true });
    this.sequence.editTrack(track, gesture);
  }

  drawVelocity({ step, value, gesture }: { step: number; value: number; gesture: string }): void {
    const track = this.track();
    const { accent: _, ...old } = track ? stepOf(track, step) : {};
    if (!track || !old.notes) return;
    const velocity = Math.max(1, Math.round(127 * value));
    this.sequence.editTrack(withStep(track, step, { ...old, velocity }), gesture);
  }

  drawOwn(
    id: string,
    { step, value, gesture }: { step: number; value: number; gesture: string },
  ): void {
    const track = this.track();
    if (!track || step >= track.length) return;
    const old = stepOf(track, step);
    const ownValues = { ...old.ownValues, [id]: Math.round(value * 1000) / 1000 };
    this.sequence.editTrack(withStep(track, step, { ...old, ownValues }), gesture);
  }

  changeTrack(track: Track, changes: Partial<Track>, gesture?: string): void {
    this.sequence.editTrack({ ...track, ...changes }, gesture);
  }

  setRate(track: Track, rate: string): void {
    this.changeTrack(track, { rate: rate as StepRate });
  }

  setDirection(track: Track, direction: string): void {
    this.changeTrack(track, { direction: direction as Direction });
  }

  setWhole(
    track: Track,
    key: 'length' | 'offset' | 'swing',
    text: string,
    low: number,
    high: number,
  ): void {
    const value = Math.round(Number(text));
    if (value >= low && value <= high)
      this.changeTrack(track, { [key]: key === 'offset' ? value - 1 : value });
  }

  /** The phrase of the patch as a pattern: what there is already is where one begins. */
  fromPhrase(): void {
    const patch = this.sequence.patch();
    const [sequencer] = this.sequence.instrument()?.sequencers ?? [];
    if (!patch) return;
    const { steps, moved, dropped } = quantise(patch.phrase, '1/16', 64);
    const bars = Math.max(1, Math.ceil(steps.length / 16));
    const track = { id: 't1', name: 'phrase', length: Math.min(64, bars * 16), steps };
    const outside = sequencer?.kind !== 'two-pass' || steps.length > sequencer.steps;
    this.sequence.take(
      patternSchema.parse({
        id: 'phrase',
        name: 'Phrase',
        bars,
        ...(outside ? {} : { sequencer: sequencer.id }),
        tracks: [track],
      }),
    );
    const lost = moved.length + dropped.length;
    if (lost > 0)
      this.toasts.show(`${moved.length} notes moved to a step, ${dropped.length} left out.`);
  }
}
