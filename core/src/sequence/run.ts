import { arpeggioReader } from '../pattern/arpeggio';
import { chanceAt } from '../pattern/chance';
import { holds, readCondition, type ReadCondition } from '../pattern/condition';
import { cycleSteps, stepAt } from '../pattern/direction';
import { MOST_TRACKS } from '../pattern/limits';
import type { Pattern, PatternStep, Track } from '../pattern/pattern';
import { BAR, stepRates } from '../pattern/rate';

/** Steps that a note sounds when nothing says otherwise. */
export const GATE = 0.75;
/** Steps that a slide runs on into the next note. */
export const OVERLAP = 0.15;
/** Velocities of a plain note, and what an accent adds. */
export const PLAIN = 80;
export const ACCENT = 42;

/** Hears what a run does, at its quarter note from the start. */
export interface RunSink {
  press(beat: number, note: number, velocity: number, track: number): void;
  release(beat: number, note: number, track: number): void;
  /** A step begins, whether it has notes or own values; not when its condition does not hold. */
  step(beat: number, pattern: number, track: number, step: number): void;
}

/** A step with all that is read while playing. */
interface ReadStep {
  notes: readonly number[];
  tie: boolean;
  velocity: number;
  length: number;
  slide: boolean;
  condition: ReadCondition | null;
  micro: number;
}

const SILENT: ReadStep = {
  notes: [],
  tie: false,
  velocity: 0,
  length: GATE,
  slide: false,
  condition: null,
  micro: 0,
};

const readStep = (step: PatternStep): ReadStep => ({
  notes: step.notes ?? [],
  tie: step.tie === true,
  velocity: velocityOf(step),
  length: step.length ?? GATE,
  slide: step.slide === true,
  condition: step.condition === undefined ? null : readCondition(step.condition),
  micro: step.micro ?? 0,
});

/** Velocity of a step, accent included. */
export const velocityOf = (step: PatternStep): number =>
  Math.min(127, (step.velocity ?? PLAIN) + (step.accent ? ACCENT : 0));

/** A track on its way. */
class Walk {
  readonly stepBeats: number;
  private readonly steps: ReadStep[];
  private readonly late: number;
  arpeggio: ReturnType<typeof arpeggioReader> | null;
  /** Next step to be played, from 0. */
  k = 0;
  /** Quarter note from the pattern's start at which it begins. */
  at = 0;
  /** Whether the last condition was true. */
  previous = false;
  /** Step at which the chord that hands hold began. */
  chordFrom = 0;

  constructor(
    readonly track: Track,
    readonly number: number,
    private readonly seed: number,
  ) {
    this.stepBeats = stepRates[track.rate];
    this.late = this.stepBeats * (track.swing / 50 - 1);
    this.steps = Array.from({ length: track.length }, (_, i) =>
      track.steps[i] ? readStep(track.steps[i]) : SILENT,
    );
    this.arpeggio = this.written();
    this.at = this.startOf(0);
  }

  /** Runs through a chord from its first note on; through the written ones again when there is none. */
  follow(chord: readonly number[] | null): void {
    const { arpeggio } = this.track;
    if (!arpeggio) return;
    if (chord === null) {
      this.arpeggio = this.written();
      return;
    }
    const chords = [{ notes: [...chord], steps: Infinity }];
    const read = arpeggioReader({ ...arpeggio, chords }, this.seed, this.number);
    this.chordFrom = this.k;
    this.arpeggio = (k) => read(Math.max(0, k - this.chordFrom));
  }

  private written(): Walk['arpeggio'] {
    const { arpeggio } = this.track;
    return arpeggio ? arpeggioReader(arpeggio, this.seed, this.number) : null;
  }

  reset(): void {
    this.k = 0;
    this.chordFrom = 0;
    this.at = this.startOf(0);
    this.previous = false;
  }

  go(): void {
    this.k++;
    // A step never begins before the one before it.
    this.at = Math.max(this.at, this.startOf(this.k));
  }

  /** Next step is the first that begins at a quarter note, or after it. */
  goTo(beat: number): void {
    this.k = Math.max(0, Math.floor(beat / this.stepBeats) - 1);
    while (this.startOf(this.k) < beat - 1e-9) this.k++;
    this.at = this.startOf(this.k);
  }

  indexOf(k: number): number {
    const { length, direction, offset } = this.track;
    return stepAt(k, length, direction, offset, this.seed, this.number);
  }

  read(k: number): ReadStep {
    return this.steps[this.indexOf(k)]!;
  }

  round(): number {
    return Math.floor(this.k / cycleSteps(this.track.direction, this.track.length));
  }

  /** Quarter note at which the k-th step begins; early ones of the very first do not come before it. */
  startOf(k: number): number {
    const micro = this.track.arpeggio ? 0 : this.read(k).micro;
    return Math.max(0, this.nominal(k) + micro * this.stepBeats);
  }

  /**
   * Quarter notes that the note of the k-th step sounds from its beginning: through the ties behind it, or into the next
   * step when it slides. What comes late may be left with next to nothing, but never with less.
   */
  lasts(head: ReadStep, k: number, began: number): number {
    let held = 0;
    while (held < this.track.length && this.read(k + 1 + held).tie) held++;
    const least = began + 0.01 * this.stepBeats;
    if (head.slide) {
      return Math.max(began, this.startOf(k + 1 + held)) + OVERLAP * this.stepBeats - began;
    }
    if (held === 0) return head.length * this.stepBeats;
    const end = this.nominal(k + held) + Math.min(1, head.length) * this.stepBeats;
    return Math.max(least, end) - began;
  }

  private nominal(k: number): number {
    return k * this.stepBeats + (k % 2 === 1 ? this.late : 0);
  }
}

/**
 * Patterns being played: told up to which quarter note to go on, it says what happens, in order. Its memory is made when
 * it begins, so that nothing is allocated while it plays. Same patterns, same seed, same commands at the same places:
 * same events.
 */
export class PatternRun {
  private readonly walks: Walk[][];
  private readonly lengths: number[];
  private readonly follows: number[];
  private pattern = 0;
  /** Quarter note at which the present pattern began, and at which it ends. */
  private began = 0;
  private ends: number;
  private queued = -1;
  /** Where each sounding note ends; NaN for silent ones. */
  private readonly ending = new Float64Array(128).fill(NaN);
  private readonly endingTrack = new Uint8Array(128);
  /** Note that ends first; -1 while none sounds, -2 when it has to be looked for. */
  private first = -1;
  /** By pattern and track. */
  private readonly muted: Uint8Array[];
  private readonly transposes: readonly number[];

  fill = false;
  /** Semitones that keys move the pattern by. */
  moved = 0;
  /** Keys are played over it: its own notes are left out meanwhile. */
  playedOver = false;
  private held: readonly number[] | null = null;

  /** @param patterns the first is played; `next` leads on within them, else it begins again */
  constructor(
    readonly patterns: readonly Pattern[],
    private readonly seed = 1,
  ) {
    if (patterns.length === 0) throw new Error('There is no pattern to play.');
    this.walks = patterns.map((p) => p.tracks.map((t, i) => new Walk(t, i, seed)));
    this.muted = patterns.map((p) =>
      Uint8Array.from({ length: MOST_TRACKS }, (_, i) => (p.tracks[i]?.muted ? 1 : 0)),
    );
    this.lengths = patterns.map((p) => p.bars * BAR);
    this.transposes = patterns.map((p) => p.transpose);
    this.follows = patterns.map((p) => patterns.findIndex((q) => q.id === p.next));
    this.ends = this.endOf(0);
  }

  /** Number of the pattern that plays. */
  get playing(): number {
    return this.pattern;
  }

  /** Chord that hands hold, which arpeggios run through instead of their own; null for their own. */
  set chord(notes: readonly number[] | null) {
    if (notes === this.held) return;
    this.held = notes;
    for (const walks of this.walks) for (const walk of walks) walk.follow(notes);
  }

  /** Silences a track in all patterns, or lets it be heard again. */
  mute(track: number, muted: boolean): void {
    for (const one of this.muted) one[track] = muted ? 1 : 0;
  }

  /** Another pattern from the next bar on. @returns the quarter note at which it begins, from `now` */
  queue(pattern: number, now: number): void {
    const bars = Math.ceil((now - this.began) / BAR - 1e-9);
    this.queued = pattern;
    this.ends = this.began + Math.max(1, bars) * BAR;
  }

  /**
   * A run through other patterns, or the same ones edited, that goes on from a quarter note: in the pattern of the same
   * name, with the same keys down, fill and moves.
   */
  followedBy(patterns: readonly Pattern[], now: number, seed = this.seed): PatternRun {
    const next = new PatternRun(patterns, seed);
    const name = this.patterns[this.pattern]!.id;
    next.pattern = Math.max(
      0,
      patterns.findIndex((p) => p.id === name),
    );
    next.began = this.began;
    next.ends = this.began + next.endOf(next.pattern);
    if (next.ends < now) next.ends = this.began + Math.ceil((now - this.began) / BAR) * BAR;
    if (this.queued >= 0) {
      const wanted = this.patterns[this.queued]!.id;
      next.queued = patterns.findIndex((p) => p.id === wanted);
      if (next.queued >= 0) next.ends = this.ends;
    }
    next.ending.set(this.ending);
    next.first = -2;
    next.endingTrack.set(this.endingTrack);
    next.fill = this.fill;
    next.moved = this.moved;
    next.playedOver = this.playedOver;
    for (const walk of next.walks[next.pattern]!) walk.goTo(now - this.began);
    next.chord = this.held;
    next.walks[next.pattern]!.forEach((walk, i) => {
      walk.chordFrom = this.walks[this.pattern]![i]?.chordFrom ?? walk.chordFrom;
    });
    return next;
  }

  /** Says everything that happens before a quarter note that has not been said yet. */
  advance(until: number, sink: RunSink): void {
    for (;;) {
      const walk = this.next();
      const starts = this.began + walk.at;
      if (this.first === -2) this.first = this.nextEnd();
      const note = this.first;
      const ends = note < 0 ? Infinity : this.ending[note]!;
      const turns = Math.min(this.ends, until);
      if (ends <= starts && ends < turns) {
        this.ending[note] = NaN;
        this.first = -2;
        sink.release(ends, note, this.endingTrack[note]!);
      } else if (starts < turns) {
        this.play(walk, starts, sink);
      } else if (this.ends < until || (this.ends === until && until === Infinity)) {
        this.turn();
      } else return;
    }
  }

  /** Moves the keys that are down too, each new one pressed before the old one is let go: of runs that hold one key. */
  moveHeld(semitones: number, beat: number, sink: RunSink): void {
    const by = semitones - this.moved;
    this.moved = semitones;
    if (by === 0) return;
    const down = [...this.ending.keys()].filter((note) => !Number.isNaN(this.ending[note]));
    const held = down.map((note) => [note, this.ending[note]!, this.endingTrack[note]!] as const);
    const goals = held.map(([note]) => note + by).filter((note) => note >= 0 && note <= 127);
    if (goals.length < held.length) return;
    this.ending.fill(NaN);
    this.first = -2;
    for (const [note, ends, track] of held) {
      this.ending[note + by] = ends;
      this.endingTrack[note + by] = track;
      if (!down.includes(note + by)) sink.press(beat, note + by, PLAIN, track);
    }
    for (const [note, , track] of held) if (!goals.includes(note)) sink.release(beat, note, track);
  }

  /** Lets go of all that sounds. */
  stop(beat: number, sink: RunSink): void {
    for (let note = 0; note < 128; note++) {
      if (Number.isNaN(this.ending[note])) continue;
      this.ending[note] = NaN;
      this.first = -1;
      sink.release(beat, note, this.endingTrack[note]!);
    }
  }

  private endOf(pattern: number): number {
    // A pattern that nothing follows runs on, so that tracks of other lengths drift against each other.
    return this.follows[pattern]! < 0 ? Infinity : this.lengths[pattern]!;
  }

  private turn(): void {
    const next = this.queued >= 0 ? this.queued : this.follows[this.pattern]!;
    this.queued = -1;
    this.began = this.ends;
    this.pattern = next;
    for (const walk of this.walks[next]!) walk.reset();
    this.ends = this.began + this.endOf(next);
  }

  private next(): Walk {
    const walks = this.walks[this.pattern]!;
    let first = walks[0]!;
    for (let i = 1; i < walks.length; i++) if (walks[i]!.at < first.at) first = walks[i]!;
    return first;
  }

  private nextEnd(): number {
    let first = -1;
    for (let note = 0; note < 128; note++) {
      const at = this.ending[note]!;
      // NaN is smaller than nothing.
      if (at < (first < 0 ? Infinity : this.ending[first]!)) first = note;
    }
    return first;
  }

  private play(walk: Walk, beat: number, sink: RunSink): void {
    const { track, number, k } = walk;
    const index = walk.indexOf(k);
    const step = walk.read(k);
    let sounds = true;
    if (step.condition) {
      const drawn = chanceAt(this.seed, number, k);
      sounds = holds(step.condition, walk.round(), this.fill, walk.previous, drawn);
      walk.previous = sounds;
    }
    const silent = this.muted[this.pattern]![number] === 1 || this.playedOver;
    if (sounds && !silent) {
      sink.step(beat, this.pattern, number, index);
      if (track.arpeggio && walk.arpeggio) {
        const lasts = track.arpeggio.length * walk.stepBeats;
        for (const note of walk.arpeggio(k)) {
          this.strike(note, PLAIN, beat, beat + lasts, number, sink);
        }
      } else if (step.notes.length > 0) {
        const ends = beat + walk.lasts(step, k, beat - this.began);
        for (const note of step.notes) {
          this.strike(note, step.velocity, beat, ends, number, sink);
        }
      }
    }
    walk.go();
  }

  private strike(
    written: number,
    velocity: number,
    beat: number,
    ends: number,
    track: number,
    sink: RunSink,
  ): void {
    const note = written + this.transposes[this.pattern]! + this.moved;
    if (note < 0 || note > 127) return;
    if (!Number.isNaN(this.ending[note])) sink.release(beat, note, track);
    // Only what ends before all others, or was the first itself, changes who is first.
    if (this.first === note) this.first = -2;
    else if (this.first >= 0 && ends < this.ending[this.first]!) this.first = note;
    else if (this.first === -1) this.first = note;
    this.ending[note] = ends;
    this.endingTrack[note] = track;
    sink.press(beat, note, velocity, track);
  }
}
