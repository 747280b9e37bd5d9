import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import {
  type Arpeggio,
  arpeggioAt,
  type ArpeggioMode,
  arpeggioSteps,
  chordKinds,
  midiToNote,
  nameChord,
  noteToMidi,
  readChord,
  type StepRate,
} from '@hurrel/core';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

/** Keys held and run through, chord by chord; chords named from notes and notes from names. */
@Component({
  selector: 'hur-arpeggio-editor',
  templateUrl: './arpeggio-editor.html',
  styleUrl: './arpeggio-editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArpeggioEditor {
  private readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly track = this.sequence.track;
  protected readonly can = this.sequence.can;
  protected readonly kinds = chordKinds;
  protected readonly errors = signal<Record<number, string>>({});

  protected readonly arpeggio = computed(() => this.track()?.arpeggio);
  protected readonly chords = computed(() =>
    (this.arpeggio()?.chords ?? []).map((chord, index) => {
      const name = nameChord(chord.notes);
      return {
        index,
        steps: chord.steps,
        notes: chord.notes.map(midiToNote).join(' '),
        name: name ? `${name.exact ? '' : 'nearest: '}${name.name}` : '',
      };
    }),
  );
  /** The first steps as they are struck. */
  protected readonly run = computed(() => {
    const arpeggio = this.arpeggio();
    if (!arpeggio) return [];
    const count = Math.min(64, arpeggioSteps(arpeggio));
    const all = Array.from({ length: count }, (_, k) =>
      arpeggioAt(arpeggio, k, this.runner.seed()),
    );
    const used = all.flat();
    const [low, high] = [Math.min(...used), Math.max(...used)];
    return all.flatMap((notes, k) =>
      notes.map((n) => ({
        x: (k * 960) / count,
        width: (960 / count) * arpeggio.length,
        y: 8 + (96 * (high - n)) / Math.max(1, high - low),
        name: count <= 24 ? midiToNote(n) : '',
        k,
      })),
    );
  });
  protected readonly now = computed(() => {
    const [track, arpeggio] = [this.track(), this.arpeggio()];
    if (!track || !arpeggio || this.runner.beat() < 0) return -1;
    return Math.floor(this.runner.stepCount(track)) % arpeggioSteps(arpeggio);
  });

  protected change(changes: Partial<Arpeggio>): void {
    const [track, arpeggio] = [this.track(), this.arpeggio()];
    if (track && arpeggio)
      this.sequence.editTrack({ ...track, arpeggio: { ...arpeggio, ...changes } });
  }

  protected clampGate(percent: number): number {
    return Math.min(1, Math.max(0.05, percent / 100 || 0.75));
  }

  protected setMode(mode: string): void {
    this.change({ mode: mode as ArpeggioMode });
  }

  protected setRate(rate: string): void {
    const track = this.track();
    if (track) this.sequence.editTrack({ ...track, rate: rate as StepRate });
  }

  protected setSwing(swing: number): void {
    const track = this.track();
    if (track) this.sequence.editTrack({ ...track, swing: Math.min(75, Math.max(50, swing)) });
  }

  /** Keys as notes, or a chord by its name. */
  protected setChord(index: number, text: string): void {
    const notes = keysOf(text);
    this.errors.update(({ [index]: _, ...others }) =>
      notes
        ? others
        : { ...others, [index]: 'Notes as C3 E3 G3, or a chord as Am7, C/E, F six-nine.' },
    );
    if (notes) this.put(index, { notes });
  }

  protected setSteps(index: number, text: string): void {
    const steps = Math.round(Number(text));
    if (steps >= 1 && steps <= 256) this.put(index, { steps });
  }

  protected add(): void {
    const chords = this.arpeggio()?.chords ?? [];
    const last = chords.at(-1) ?? { notes: [48, 52, 55], steps: 16 };
    this.change({ chords: [...chords, last] });
  }

  protected drop(index: number): void {
    this.change({ chords: (this.arpeggio()?.chords ?? []).filter((_, i) => i !== index) });
  }

  private put(index: number, changes: Partial<Arpeggio['chords'][number]>): void {
    const chords = this.arpeggio()!.chords.map((c, i) => (i === index ? { ...c, ...changes } : c));
    this.change({ chords });
  }
}

function keysOf(text: string): number[] | undefined {
  const words = text.trim().split(/[\s+,]+/);
  const notes = words.map((w) => noteToMidi(w));
  if (notes.every((n) => n !== undefined && n >= 0 && n <= 127))
    return (notes as number[]).slice(0, 8);
  return readChord(text);
}
