import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import {
  bestRanges,
  directions,
  type Direction,
  midiToNote,
  nearestRowCode,
  noteToMidi,
  octaveThroughGain,
  readUnit,
  repairGain,
  rowGain,
  rowReach,
  rowSteps,
  rowVolts,
  type StepRate,
  type Track,
} from '@hurrel/core';
import { RunnerService } from './runner.service';
import { SequenceService } from './sequence.service';

/** Codes of a row that counts in 127 steps, as most that are told by numbers do. */
const CODES = 127;
/** Note at 0 V: the row's bottom. */
const BOTTOM = 60;

/** Rows of voltages: knobs, volts, the notes they mean and how far off they are, and how the row runs. */
@Component({
  selector: 'hur-rows-editor',
  templateUrl: './rows-editor.html',
  styleUrl: './rows-editor.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RowsEditor {
  private readonly sequence = inject(SequenceService);
  protected readonly runner = inject(RunnerService);
  protected readonly track = this.sequence.track;
  protected readonly can = this.sequence.can;
  protected readonly ways = computed(() =>
    directions.filter((d) => this.can().directions.includes(d)),
  );

  /** What the panel tells a track: only that can be said here. */
  protected readonly told = computed(() => this.sequence.sequencer()?.panel ?? {});

  protected readonly rows = computed(() => {
    const [instrument, sequencer, track, patch] = [
      this.sequence.instrument(),
      this.sequence.sequencer(),
      this.track(),
      this.sequence.patch(),
    ];
    if (!instrument || !sequencer || !track || !patch) return [];
    return sequencer.rows.map((row) => {
      const gain = rowGain(instrument, row, patch);
      const [lo, hi] = rowReach(instrument, row);
      const volts = track.rows[row.id] ?? [];
      const steps = rowSteps(instrument, row, volts, gain).map((s, i) => ({
        ...s,
        index: i,
        share: hi > lo ? (s.volts - lo) / (hi - lo) : 0,
        beyond: i >= track.length,
        note: row.pitch ? noteOf(s.semitones) : '',
        cents: Math.round(s.semitones * 100 - Math.round(s.semitones) * 100),
      }));
      const figure = steps.filter((s) => !s.beyond).map((s) => s.semitones);
      return {
        row,
        gain,
        lo,
        hi,
        steps,
        octave: octaveThroughGain(gain),
        repair: repairGain(gain),
        ranges: row.pitch ? bestRanges(figure.map(Math.round), CODES) : [],
        coarse: row.pitch ? worst(figure.map(Math.round), hi - lo) : 0,
      };
    });
  });
  /** The way through the steps, as a line over their columns. */
  protected readonly way = computed(() => {
    const track = this.track();
    if (!track) return '';
    const [n, last] = [8, track.length];
    const x = (i: number): number => ((i + 0.5) * 960) / n;
    const arrow = (a: number, b: number, y: number): string => {
      const tip = b > a ? -6 : 6;
      return `M${x(a)} ${y} L${x(b)} ${y} m${tip} -4 l${-tip} 4 l${tip} 4 `;
    };
    switch (track.direction) {
      case 'forward':
        return arrow(0, last - 1, 9);
      case 'back':
        return arrow(last - 1, 0, 9);
      case 'there-and-back':
      case 'pendulum':
        return arrow(0, last - 1, 6) + arrow(last - 1, 0, 14);
      case 'random':
        return Array.from({ length: last }, (_, i) => `M${x(i) - 3} 9 l6 0 m-3 -3 l0 6 `).join('');
    }
  });

  /** When the steps begin: where a straight one would, and where it does, as places over the columns. */
  protected readonly beats = computed(() => {
    const track = this.track();
    if (!track) return [];
    const late = 120 * (track.swing / 50 - 1);
    return Array.from({ length: track.length }, (_, i) => {
      const straight = 60 + 120 * i;
      return { straight, begins: straight + (i % 2 === 1 ? late : 0) };
    });
  });

  protected setSwing(text: string): void {
    const swing = Number(text.replace(',', '.'));
    if (swing >= 50 && swing <= 75) this.change({ swing });
  }

  /** A step as one types it: volts, a note, or semitones. */
  protected type(row: string, index: number, text: string, gain: number): void {
    const given = text.trim().toLowerCase();
    const note = noteToMidi(given);
    const number = /^([+-]?\d*[.,]?\d+)\s*(v|st)?$/.exec(given);
    let volts: number | undefined;
    if (note !== undefined) volts = rowVolts(note - BOTTOM, gain);
    else if (number) {
      const value = Number(number[1]!.replace(',', '.'));
      volts = readUnit(number[2] ?? 'v') && number[2] === 'st' ? rowVolts(value, gain) : value;
    }
    if (volts !== undefined) this.setVolts(row, index, volts);
  }

  protected setVolts(row: string, index: number, volts: number, gesture?: string): void {
    const track = this.track();
    const reach = this.rows().find((r) => r.row.id === row);
    if (!track || !reach) return;
    const held = Math.round(1e4 * Math.min(reach.hi, Math.max(reach.lo, volts))) / 1e4;
    const old = track.rows[row] ?? [];
    const values = Array.from({ length: Math.max(old.length, index + 1) }, (_, i) =>
      i === index ? held : (old[i] ?? reach.lo),
    );
    this.sequence.editTrack({ ...track, rows: { ...track.rows, [row]: values } }, gesture);
  }

  protected change(changes: Partial<Pick<Track, 'length' | 'swing'>>): void {
    const track = this.track();
    if (track) this.sequence.editTrack({ ...track, ...changes });
  }

  protected setWay(direction: string): void {
    const track = this.track();
    if (track) this.sequence.editTrack({ ...track, direction: direction as Direction });
  }

  protected setRate(rate: string): void {
    const track = this.track();
    if (track) this.sequence.editTrack({ ...track, rate: rate as StepRate });
  }

  protected signed(cents: number): string {
    return `${cents > 0 ? '+' : cents < 0 ? '−' : ''}${Math.abs(Math.round(cents))}`;
  }
}

const noteOf = (semitones: number): string => midiToNote(BOTTOM + Math.round(semitones));

/** Largest error in cents when the row's own range is told in 127 steps. */
const worst = (figure: readonly number[], range: number): number =>
  Math.max(0, ...figure.map((s) => Math.abs(nearestRowCode(s, range, CODES).errorCents)));
