import type { OwnSwitches, OwnChanges } from '../circuit/own-values';
import type { ParamChange } from '../circuit/param-changes';
import { MOST_TRACKS } from '../pattern/limits';
import type { Pattern } from '../pattern/pattern';
import { BAR } from '../pattern/rate';
import { PatternRun, type RunSink } from '../sequence/run';
import { Act } from './key-feed';

/** Who is told what a pattern does, within the stretch that is being computed. */
export interface PatternKeys {
  /** @param after samples from the stretch's beginning */
  play(act: Act, note: number, value: number, after: number): void;
  turn(turn: ParamChange): void;
  /** Another circuit of those that its own values run through. */
  exchange(circuit: number): void;
}

/**
 * Plays patterns sample by sample: which quarter note a sample is, at a tempo that may change, and at which sample of the
 * stretch each key goes down. Locked controls turn at the beginning of the stretch in which their step begins.
 */
export class PatternPlayer implements RunSink {
  run: PatternRun;
  /** Where the present tempo began. */
  private originBeat = 0;
  private originSample = 0;
  private sample = 0;
  /** Which of its switch own values each track is at, in the pattern that played last. */
  private readonly states = new Uint8Array(MOST_TRACKS);
  private pattern = 0;
  private beats: number;

  constructor(
    patterns: readonly Pattern[],
    private turns: OwnChanges,
    private switches: OwnSwitches | null,
    private readonly sampleRate: number,
    private tempo: number,
    private readonly keys: PatternKeys,
    seed = 1,
    /** Quarter note that it begins at; below 0 it waits for its first. */
    beat = 0,
  ) {
    this.originBeat = beat;
    this.run = new PatternRun(patterns, seed);
    this.beats = tempo / 60 / sampleRate;
  }

  /** Quarter notes since the start. */
  get beat(): number {
    return this.beatAt(this.sample);
  }

  setTempo(tempo: number): void {
    if (tempo === this.tempo) return;
    this.originBeat = this.beat;
    this.originSample = this.sample;
    this.tempo = tempo;
    this.beats = tempo / 60 / this.sampleRate;
  }

  /** Goes on with other patterns, or the same ones edited, from where it is. */
  change(
    patterns: readonly Pattern[],
    turns: OwnChanges,
    switches: OwnSwitches | null,
    seed = 1,
  ): void {
    this.run = this.run.followedBy(patterns, this.beat, seed);
    this.turns = turns;
    this.switches = switches;
    this.states.fill(0);
  }

  /** Says what happens in the next n samples. */
  advance(n: number): void {
    // What rounds to a sample of this stretch belongs to it.
    this.run.advance(this.beatAt(this.sample + n - 0.5), this);
    this.sample += n;
  }

  /** Whether a bar begins within the next n samples. */
  beginsBar(n: number): boolean {
    const bars = (sample: number): number => Math.floor(this.beatAt(sample - 0.5) / BAR);
    return bars(this.sample + n) > bars(this.sample);
  }

  /** @param held the keys that are down go along at once */
  move(semitones: number, held: boolean): void {
    if (held) this.run.moveHeld(semitones, this.beat, this);
    else this.run.moved = semitones;
  }

  stop(): void {
    this.run.stop(this.beat, this);
  }

  press(beat: number, note: number, velocity: number): void {
    this.keys.play(Act.press, note, velocity, this.after(beat));
  }

  release(beat: number, note: number): void {
    this.keys.play(Act.release, note, 0, this.after(beat));
  }

  step(_beat: number, pattern: number, track: number, step: number): void {
    const turns = this.turns[pattern]?.[track]?.[step];
    if (turns) for (let i = 0; i < turns.length; i++) this.keys.turn(turns[i]!);
    if (this.switches) this.switchTo(this.switches, pattern, track, step);
  }

  private switchTo(switches: OwnSwitches, pattern: number, track: number, step: number): void {
    if (pattern !== this.pattern) this.states.fill(0);
    this.pattern = pattern;
    const tracks = switches.tracks[pattern]!;
    const own = tracks[track];
    const state = own?.steps[step] ?? -1;
    if (state < 0) return;
    this.states[track] = state;
    let circuit = switches.first[pattern]!;
    for (let t = 0; t < tracks.length; t++) {
      const other = tracks[t];
      if (other) circuit += this.states[t]! * other.weight;
    }
    this.keys.exchange(circuit);
  }

  private beatAt(sample: number): number {
    return this.originBeat + (sample - this.originSample) * this.beats;
  }

  private after(beat: number): number {
    const sample = Math.round((beat - this.originBeat) / this.beats) + this.originSample;
    return Math.max(0, sample - this.sample);
  }
}
