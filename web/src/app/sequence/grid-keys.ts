import { inject, Injectable } from '@angular/core';
import { velocityOf } from '@hurrel/core';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';
import { StepEdits } from './step-edits';
import { StepPages } from './step-pages';

/** Keys of the grid: arrows go, letters do. */
@Injectable()
export class GridKeys {
  private readonly sequence = inject(SequenceService);
  private readonly runner = inject(RunnerService);
  private readonly edits = inject(StepEdits);
  private readonly pages = inject(StepPages);

  press(event: KeyboardEvent): void {
    if (event.altKey) return;
    const pattern = this.sequence.pattern();
    const track = this.sequence.track();
    if (!pattern || !track) return;
    if (event.ctrlKey || event.metaKey) return this.clipKey(event);
    const { track: row, step } = this.sequence.cursor();
    const go = (t: number, s: number): void =>
      this.sequence.go(
        Math.min(pattern.tracks.length - 1, Math.max(0, t)),
        Math.min((pattern.tracks[t] ?? track).length - 1, Math.max(0, s)),
      );
    const mark = (key: 'accent' | 'slide'): void => {
      const { [key]: on, ...rest } = this.sequence.step();
      if (rest.notes) this.sequence.editStep(on ? rest : { ...rest, [key]: true });
    };
    const louder = (by: number): void => {
      const { accent: _, ...old } = this.sequence.step();
      const velocity = Math.min(127, Math.max(1, velocityOf(this.sequence.step()) + by));
      if (old.notes) this.sequence.editStep({ ...old, velocity }, `velocity-${row}-${step}`);
    };
    const note = (by: number): void => {
      const old = this.sequence.step();
      if (old.notes)
        this.sequence.editStep(
          { ...old, notes: old.notes.map((n) => n + by) },
          `note-${row}-${step}`,
        );
    };
    const acts: Record<string, () => void> = {
      ArrowLeft: () => go(row, step - 1),
      ArrowRight: () => go(row, step + 1),
      ArrowUp: () => (event.shiftKey ? note(1) : go(row - 1, step)),
      ArrowDown: () => (event.shiftKey ? note(-1) : go(row + 1, step)),
      PageUp: () => go(row, step - this.pages.count()),
      PageDown: () => go(row, step + this.pages.count()),
      Home: () => go(row, 0),
      End: () => go(row, track.length - 1),
      Enter: () => this.edits.strike(),
      Delete: () => this.edits.clear(),
      Backspace: () => this.edits.clear(),
      '.': () => this.edits.clear(),
      '-': () => this.sequence.editStep({ tie: true }),
      "'": () => mark('accent'),
      '~': () => mark('slide'),
      '[': () => louder(-5),
      ']': () => louder(5),
      m: () => this.edits.changeTrack(track, { muted: !track.muted }),
      s: () => this.runner.toggleSolo(track.id),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  }

  private clipKey(event: KeyboardEvent): void {
    const key = event.key.toLowerCase();
    if (key === 'c') this.sequence.copySteps();
    else if (key === 'x') {
      this.sequence.copySteps();
      this.edits.clear();
    } else if (key === 'v') this.sequence.paste();
    else if (key === 'a')
      this.sequence.go(this.sequence.cursor().track, 0, this.sequence.track()?.length ?? 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
