import { fallFactor } from '../theory/envelope';
import type { Graph } from '../circuit/graph';
import type { OwnSwitches, OwnChanges } from '../circuit/own-values';
import type { ParamChange } from '../circuit/param-changes';
import type { Pattern } from '../pattern/pattern';
import type { TimedNote } from '../pattern/phrase';
import { BAR } from '../pattern/rate';
import { EngineSource } from './engine-source';
import { FULL_SCALE_VOLTS } from './engine';
import { prepareLine } from './kernels/warp-compensator';
import { Act } from './key-feed';
import { BLOCK } from './kernel';
import { type Stroke, strokes } from './notes';
import { Part, type PartSource } from './part';
import { PatternPlayer, type PlayerHands } from './pattern-player';

/** Which of two sounds: they run side by side, and one of them is heard. */
export type LiveSide = 'a' | 'b';

/** What live sound is told. */
export type LiveMessage =
  | { type: 'graph'; side: LiveSide; graph: Graph; tempo: number }
  | { type: 'turn'; side: LiveSide; turns: ParamChange[] }
  | { type: 'tempo'; side: LiveSide; tempo: number }
  | {
      type: 'recording';
      side: LiveSide;
      left: Float32Array;
      right: Float32Array;
      sampleRate: number;
    }
  | { type: 'clear'; side: LiveSide }
  | { type: 'hear'; side: LiveSide }
  | { type: 'gain'; side: LiveSide; gain: number }
  | { type: 'act'; act: Act; note: number; value: number }
  | { type: 'volume'; volume: number }
  /** A phrase from its beginning; again after `every` seconds when that is given. */
  | { type: 'play'; notes: TimedNote[]; every?: number }
  /** Patterns, from the beginning; or, when they run already, edited where they are. */
  | {
      type: 'run';
      patterns: Pattern[];
      turns: OwnChanges;
      switches?: OwnSwitches | null;
      tempo: number;
      seed?: number;
    }
  /** Another of the patterns from the next bar on. */
  | { type: 'queue'; pattern: number }
  | { type: 'fill'; held: boolean }
  | { type: 'mute'; track: number; muted: boolean }
  /** Semitones that the patterns are moved by. */
  | { type: 'move'; semitones: number }
  /** Whether keys that are held interrupt the patterns. */
  | { type: 'play-over'; on: boolean }
  /**
   * Other instruments that play their own patterns along, by name. Who is new begins with the run, or at its next bar;
   * who is not named leaves; the others get the level they are given.
   */
  | { type: 'band'; parts: Record<string, PartSource> }
  /** Ends the run; controls that steps have moved go back. */
  | { type: 'run-stop'; returned: ParamChange[] }
  | { type: 'stop' }
  | { type: 'all-off' };

/** What it tells of the last stretch: highest level before the limiter, 0..1, and how much the limiter took away. */
export interface LiveMeter {
  peak: number;
  taken: number;
  /** Keys that sound. */
  held: number;
  /** A phrase is being played. */
  playing: boolean;
  /** Quarter notes that patterns have run; below 0 while none do. */
  beat: number;
  /** Number of the pattern that runs. */
  pattern: number;
}

/** Volume that it starts with: low, so that nobody is startled. */
export const START_VOLUME = 0.25;
/** Level that nothing goes over. */
const CEILING = 0.9;
const LIMITER_SECONDS = 0.15;

/**
 * Live sound: a patch under the keys, another one (or a recording) beside it, crossfades when either changes, a volume
 * that moves without clicks, and a limiter at the end. Runs the same in an audio worklet, a worker or a test.
 */
export class LiveSound implements PlayerHands {
  private readonly sources: Record<LiveSide, EngineSource>;
  private readonly held = new Uint8Array(128);
  private phrase: Stroke[] | null = null;
  private phraseAt = 0;
  private next = 0;
  private every = 0;
  private player: PatternPlayer | null = null;
  private readonly band = new Map<string, Part>();
  /** Those of the band that fade out are still there. */
  private sounding: Part[] = [];
  private over = false;
  /** Keys held by hand. */
  private hands = 0;
  private volume = START_VOLUME;
  private volumeGoal = START_VOLUME;
  private taken = 0;
  private processed = 0;
  private peak = 0;
  private most = 0;
  private readonly mix = [new Float64Array(BLOCK), new Float64Array(BLOCK)] as const;
  private readonly release: number;

  constructor(readonly sampleRate: number) {
    this.sources = {
      a: new EngineSource(sampleRate, true),
      b: new EngineSource(sampleRate, false),
    };
    this.release = fallFactor(LIMITER_SECONDS, sampleRate);
  }

  receive(message: LiveMessage): void {
    // Each message goes to its own answer: their types are those of one table.
    (this.answers[message.type] as (message: LiveMessage) => void)(message);
  }

  private readonly answers: {
    [T in LiveMessage['type']]: (message: Extract<LiveMessage, { type: T }>) => void;
  } = {
    graph: ({ side, graph, tempo }) => this.change(this.sources[side], graph, tempo),
    turn: ({ side, turns }) => {
      for (const t of turns) this.sources[side].engine?.turn(t.node, t.param, t.value);
    },
    tempo: ({ side, tempo }) => {
      const { engine } = this.sources[side];
      if (engine) engine.transport.tempo = tempo;
      if (side === 'b') return;
      this.player?.setTempo(tempo);
      for (const part of this.sounding) part.setTempo(tempo);
    },
    recording: ({ side, left, right, sampleRate }) =>
      this.sources[side].record(left, right, sampleRate),
    clear: ({ side }) => this.sources[side].clear(),
    hear: ({ side }) => {
      for (const one of ['a', 'b'] as const) this.sources[one].wanted = one === side;
    },
    gain: ({ side, gain }) => {
      this.sources[side].gain = gain;
    },
    act: ({ act, note, value }) => {
      this.byHand(act, note);
      this.act(act, note, value);
    },
    run: (message) => this.runPatterns(message),
    queue: ({ pattern }) => this.player?.run.queue(pattern, this.player.beat),
    fill: ({ held }) => {
      if (this.player) this.player.run.fill = held;
      for (const part of this.sounding) part.fill = held;
    },
    mute: ({ track, muted }) => this.player?.run.mute(track, muted),
    move: ({ semitones }) => {
      if (this.player) this.player.run.moved = semitones;
    },
    'play-over': ({ on }) => {
      this.over = on;
      this.interrupt();
    },
    band: ({ parts }) => this.gather(parts),
    'run-stop': ({ returned }) => {
      this.endRun();
      for (const t of returned) this.turn(t);
    },
    volume: ({ volume }) => {
      this.volumeGoal = Math.min(1, Math.max(0, volume));
    },
    play: ({ notes, every }) => {
      this.stop();
      this.phrase = strokes(notes, this.sampleRate);
      this.every = every === undefined ? 0 : Math.round(every * this.sampleRate);
      this.next = 0;
      this.phraseAt = 0;
    },
    stop: () => this.stop(),
    'all-off': () => {
      this.stop();
      this.endRun();
      this.hands = 0;
      this.act(Act.pedal, 0, 0);
      for (let note = 0; note < 128; note++) if (this.held[note]) this.act(Act.release, note, 0);
    },
  };

  /**
   * Computes the next n samples (a multiple of 64) of both sides, -1..1.
   * @param fromLeft and fromRight what comes in from outside meanwhile
   */
  process(
    left: Float32Array,
    right: Float32Array,
    n: number,
    fromLeft?: Float32Array,
    fromRight = fromLeft,
  ): void {
    // A little at a time, so that it takes nothing from what sounds.
    this.processed = (this.processed + 1) & 3;
    if (this.processed === 0) prepareLine();
    for (let from = 0; from < n; from += BLOCK) {
      const [l, r] = this.mix;
      l.fill(0);
      r.fill(0);
      if (fromLeft && fromRight) this.feed(fromLeft, fromRight, from);
      if (this.phrase) this.walk();
      this.player?.advance(BLOCK);
      this.sources.a.add(l, r);
      this.sources.b.add(l, r);
      this.addBand(l, r);
      this.finish(left, right, from);
    }
  }

  /** What has happened since it was last asked. */
  meter(into: LiveMeter): LiveMeter {
    into.peak = this.peak;
    into.taken = this.most;
    into.playing = this.phrase !== null;
    into.beat = this.player ? this.player.beat : -1;
    into.pattern = this.player ? this.player.run.playing : 0;
    into.held = 0;
    for (let note = 0; note < 128; note++) into.held += this.held[note]!;
    this.peak = this.most = 0;
    return into;
  }

  /** What the patterns strike. */
  play(act: Act, note: number, value: number, after: number): void {
    this.act(act, note, value, after);
  }

  /** What the steps of patterns turn. */
  turn({ node, param, value }: ParamChange): void {
    this.sources.a.engine?.turn(node, param, value);
  }

  private byHand(act: Act, note: number): void {
    if (act === Act.press && this.held[note] === 0) this.hands++;
    if (act === Act.release && this.held[note] === 1) this.hands = Math.max(0, this.hands - 1);
    this.interrupt();
  }

  /** Leaves the patterns out while keys are played over them. */
  private interrupt(): void {
    const { player } = this;
    if (!player) return;
    const out = this.over && this.hands > 0;
    if (out && !player.run.playedOver) player.stop();
    player.run.playedOver = out;
  }

  /** Another circuit that the patterns' own values run through. */
  exchange(circuit: number): void {
    this.sources.a.exchange(circuit);
  }

  private runPatterns(message: Extract<LiveMessage, { type: 'run' }>): void {
    const { patterns, turns, switches = null, tempo, seed } = message;
    if (switches) this.sources.a.prepare(switches.graphs, switches.keys);
    else this.sources.a.restore();
    if (this.player) this.player.change(patterns, turns, switches, seed);
    else {
      const { sampleRate } = this;
      this.player = new PatternPlayer(patterns, turns, switches, sampleRate, tempo, this, seed);
    }
  }

  private endRun(): void {
    this.sources.a.restore();
    this.player?.stop();
    this.player = null;
    this.gather({});
  }

  private gather(parts: Record<string, PartSource>): void {
    const tempo = this.sources.a.engine?.transport.tempo ?? 120;
    const beat = this.player?.beat ?? 0;
    for (const [name, part] of this.band) {
      if (parts[name]) continue;
      part.leave();
      this.band.delete(name);
    }
    for (const [name, source] of Object.entries(parts)) {
      const known = this.band.get(name);
      if (known) {
        known.mix(source.gain, source.pan);
        continue;
      }
      const bar = BAR * Math.ceil(beat / BAR - 1e-9);
      const part = new Part(source, this.sampleRate, tempo, beat - bar);
      this.band.set(name, part);
      this.sounding.push(part);
    }
  }

  private addBand(l: Float64Array, r: Float64Array): void {
    let left = false;
    for (let i = 0; i < this.sounding.length; i++) {
      const part = this.sounding[i]!;
      part.add(l, r, 0, BLOCK, this.player !== null);
      left ||= part.gone;
    }
    if (left) this.sounding = this.sounding.filter((part) => !part.gone);
  }

  private feed(left: Float32Array, right: Float32Array, from: number): void {
    const first = this.sources.a.engine?.external;
    const second = this.sources.b.engine?.external;
    for (let i = 0; i < BLOCK; i++) {
      const l = FULL_SCALE_VOLTS * left[from + i]!;
      const r = FULL_SCALE_VOLTS * right[from + i]!;
      if (first) {
        first[0][i] = l;
        first[1][i] = r;
      }
      if (second) {
        second[0][i] = l;
        second[1][i] = r;
      }
    }
  }

  /** Plays what falls into the next block, at its sample. */
  private walk(): void {
    const phrase = this.phrase!;
    const end = this.phraseAt + BLOCK;
    while (this.next < phrase.length && phrase[this.next]!.sample < end) {
      const { sample, act, note, value } = phrase[this.next++]!;
      this.act(act, note, value, Math.max(0, sample - this.phraseAt));
    }
    this.phraseAt = end;
    if (this.next < phrase.length) return;
    if (this.every === 0) this.phrase = null;
    else if (end >= this.every) {
      this.next = 0;
      this.phraseAt = end - this.every;
    }
  }

  private stop(): void {
    const left = this.phrase?.slice(this.next) ?? [];
    this.phrase = null;
    for (const { act, note } of left)
      if (act === Act.release && this.held[note]) this.act(act, note, 0);
  }

  private act(act: Act, note: number, value: number, after = 0): void {
    if (act === Act.press) this.held[note] = 1;
    if (act === Act.release) this.held[note] = 0;
    this.sources.a.engine?.play(act, note, value, after);
    this.sources.b.engine?.play(act, note, value, after);
  }

  private change(source: EngineSource, graph: Graph, tempo: number): void {
    if (!source.change(graph, tempo)) return;
    // What is held already is heard by the newcomer too.
    for (let note = 0; note < 128; note++) {
      if (this.held[note]) source.engine?.play(Act.press, note, 100);
    }
  }

  private finish(left: Float32Array, right: Float32Array, from: number): void {
    const [l, r] = this.mix;
    // 8 ms from one volume to another.
    const way = this.volumeGoal - this.volume;
    const goal = this.volume + way * Math.min(1, BLOCK / (0.008 * this.sampleRate));
    const step = (goal - this.volume) / BLOCK;
    let { taken, volume } = this;
    for (let i = 0; i < BLOCK; i++) {
      volume += step;
      const a = volume * l[i]!;
      const b = volume * r[i]!;
      const peak = Math.max(a < 0 ? -a : a, b < 0 ? -b : b);
      if (peak > this.peak) this.peak = peak;
      taken = taken < 1e-9 ? 0 : taken * this.release;
      if (peak * (1 - taken) > CEILING) taken = 1 - CEILING / peak;
      if (taken > this.most) this.most = taken;
      left[from + i] = a * (1 - taken);
      right[from + i] = b * (1 - taken);
    }
    this.volume = way > 1e-6 || way < -1e-6 ? goal : this.volumeGoal;
    this.taken = taken;
  }
}
