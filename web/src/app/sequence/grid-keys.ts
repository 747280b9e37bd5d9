import { inject, Injectable } from '@angular/core';
import { velocityOf } from '@hurrel/core';
import { type Shortcut, shortcutListener } from '../keys/shortcuts';
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

  readonly shortcuts: readonly Shortcut[] = [
    { keys: 'ArrowLeft', says: 'Step before', act: () => this.move(0, -1) },
    { keys: 'ArrowRight', says: 'Next step', act: () => this.move(0, 1) },
    { keys: 'ArrowUp', says: 'Track above', act: () => this.move(-1, 0) },
    { keys: 'ArrowDown', says: 'Track below', act: () => this.move(1, 0) },
    { keys: 'PageUp', says: 'Page before', act: () => this.move(0, -this.pages.count()) },
    { keys: 'PageDown', says: 'Next page', act: () => this.move(0, this.pages.count()) },
    { keys: 'Home', says: 'First step', act: () => this.move(0, -Infinity) },
    { keys: 'End', says: 'Last step', act: () => this.move(0, Infinity) },
    { keys: 'Enter', says: 'Strike, or not', act: () => this.edits.strike() },
    { keys: ['Delete', 'Backspace', '.'], says: 'Clear', act: () => this.edits.clear() },
    { keys: 'Shift+ArrowUp', says: 'Note up', act: () => this.transpose(1) },
    { keys: 'Shift+ArrowDown', says: 'Note down', act: () => this.transpose(-1) },
    { keys: '[', says: 'Softer', act: () => this.louder(-5) },
    { keys: ']', says: 'Louder', act: () => this.louder(5) },
    { keys: "'", says: 'Accent', act: () => this.mark('accent') },
    { keys: '~', says: 'Slide', act: () => this.mark('slide') },
    { keys: '-', says: 'Hold on', act: () => this.sequence.editStep({ tie: true }) },
    { keys: 'm', says: 'Mute the track', act: () => this.mute() },
    { keys: 's', says: 'Hear the track alone', act: () => this.solo() },
    { keys: '$mod+KeyC', says: 'Copy the steps', act: () => this.sequence.copySteps() },
    { keys: '$mod+KeyX', says: 'Cut them', act: () => this.cut() },
    { keys: '$mod+KeyV', says: 'Paste', act: () => this.sequence.paste() },
    { keys: '$mod+KeyA', says: 'Choose the whole track', act: () => this.chooseTrack() },
  ];
  readonly press = shortcutListener(this.shortcuts);

  private move(tracks: number, steps: number): void {
    const all = this.sequence.pattern()?.tracks ?? [];
    if (all.length === 0) return;
    const { track, step } = this.sequence.cursor();
    const to = Math.min(all.length - 1, Math.max(0, track + tracks));
    const last = (all[to]?.length ?? 1) - 1;
    this.sequence.go(to, Math.min(last, Math.max(0, step + steps)));
  }

  private mark(key: 'accent' | 'slide'): void {
    const { [key]: on, ...rest } = this.sequence.step();
    if (rest.notes) this.sequence.editStep(on ? rest : { ...rest, [key]: true });
  }

  private louder(by: number): void {
    const step = this.sequence.step();
    if (!step.notes) return;
    const { accent: _, ...old } = step;
    const velocity = Math.min(127, Math.max(1, velocityOf(step) + by));
    this.sequence.editStep({ ...old, velocity }, this.gesture('velocity'));
  }

  private transpose(by: number): void {
    const old = this.sequence.step();
    if (!old.notes) return;
    this.sequence.editStep({ ...old, notes: old.notes.map((n) => n + by) }, this.gesture('note'));
  }

  /** Presses of one key on one step are undone together. */
  private gesture(what: string): string {
    const { track, step } = this.sequence.cursor();
    return `${what}-${track}-${step}`;
  }

  private mute(): void {
    const track = this.sequence.track();
    if (track) this.edits.changeTrack(track, { muted: !track.muted });
  }

  private solo(): void {
    const track = this.sequence.track();
    if (track) this.runner.toggleSolo(track.id);
  }

  private cut(): void {
    this.sequence.copySteps();
    this.edits.clear();
  }

  private chooseTrack(): void {
    this.sequence.go(this.sequence.cursor().track, 0, this.sequence.track()?.length ?? 1);
  }
}
