import { fallFactor } from '../theory/envelope';
import type { Graph } from '../circuit/graph';
import type { ParamChange } from '../circuit/param-changes';
import { BAR } from '../pattern/rate';
import { EngineSource } from './engine-source';
import { FULL_SCALE_VOLTS } from './engine';
import { prepareLine } from './kernels/warp-compensator';
import { Act } from './key-feed';
import { BLOCK } from './kernel';
import type { KeysDo, LiveMessage, LiveMeter, LiveSide } from './live-message';
import { BarChange } from './bar-change';
import { Hush } from './hush';
import { HeldChord } from './held-chord';
import { type Stroke, strokes } from './notes';
import { Part, type PartSource } from './part';
import { PatternPlayer, type PatternKeys } from './pattern-player';

/** Volume that it starts with: low, so that nobody is startled. */
export const START_VOLUME = 0.25;
/** Level that nothing goes over. */
const CEILING = 0.9;
const LIMITER_SECONDS = 0.15;

/**
 * Live sound: a patch under the keys, another one (or a recording) beside it, crossfades when either changes, a volume
 * that moves without clicks, and a limiter at the end. Runs the same in an audio worklet, a worker or a test.
 */
export class LiveSound implements PatternKeys {
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
  private keysDo: KeysDo = 'sound';
  /** Keys held by hand, in the order of pressing. */
  private readonly heldChord = new HeldChord();
  private readonly change = new BarChange();
  private volume = START_VOLUME;
  private volumeGoal = START_VOLUME;
  private taken = 0;
  private processed = 0;
  private peak = 0;
  private most = 0;
  private readonly mix = [new Float64Array(BLOCK), new Float64Array(BLOCK)] as const;
  private readonly release: number;
  private readonly hush: Hush;

  constructor(readonly sampleRate: number) {
    this.sources = {
      a: new EngineSource(sampleRate, true),
      b: new EngineSource(sampleRate, false),
    };
    this.release = fallFactor(LIMITER_SECONDS, sampleRate);
    this.hush = new Hush(sampleRate);
  }

  receive(message: LiveMessage): void {
    // Each message goes to its own answer: their types are those of one table.
    (this.answers[message.type] as (message: LiveMessage) => void)(message);
  }

  private readonly answers: {
    [T in LiveMessage['type']]: (message: Extract<LiveMessage, { type: T }>) => void;
  } = {
    graph: ({ side, graph, tempo, fresh }) =>
      this.exchangeFor(this.sources[side], graph, tempo, fresh === true),
    turn: ({ side, turns }) => {
      for (const t of turns) this.sources[side].turn(t);
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
      for (const one of ['a', 'b'] as const)
        this.sources[one].wanted = side === 'both' || one === side;
    },
    gain: ({ side, gain }) => {
      this.sources[side].gain = gain;
    },
    act: ({ act, note, value }) => {
      if (!this.heldChord.hear(act, note)) return this.act(act, note, value);
      this.lead();
      // Keys that an arpeggio runs through do not sound themselves; those that sounded before are let go.
      const runs = this.keysDo === 'arpeggio' && this.player !== null;
      if (!runs || act === Act.release) this.act(act, note, value);
    },
    run: (message) => this.runPatterns(message),
    queue: ({ pattern }) => this.player?.run.queue(pattern, this.player.beat),
    fill: ({ held }) => {
      if (this.player) this.player.run.fill = held;
      for (const part of this.sounding) part.fill = held;
    },
    mute: ({ track, muted }) => this.player?.run.mute(track, muted),
    move: ({ semitones, held }) => this.player?.move(semitones, held === true),
    keys: (message) => {
      this.keysDo = message.do;
      this.lead();
    },
    'at-bar': ({ change, messages }) => {
      const rounds = this.player !== null || (this.phrase !== null && this.every > 0);
      if (!rounds || this.change.isMade(change)) {
        this.change.make(change);
        for (const message of messages) this.receive(message);
      } else this.change.add(change, messages);
    },
    now: () => this.makeChange(),
    band: ({ parts }) => this.gather(parts),
    'run-stop': ({ returned }) => {
      this.endRun();
      for (const t of returned) this.turn(t);
    },
    volume: ({ volume }) => {
      this.volumeGoal = Math.min(1, Math.max(0, volume));
    },
    play: ({ notes, every }) => {
      this.wake();
      this.stop();
      this.phrase = strokes(notes, this.sampleRate);
      this.every = every === undefined ? 0 : Math.round(every * this.sampleRate);
      this.next = 0;
      this.phraseAt = 0;
    },
    stop: () => this.stop(),
    'all-off': () => this.allOff(),
    hush: () => {
      this.allOff();
      this.hush.begin();
    },
  };

  private allOff(): void {
    this.makeChange();
    this.stop();
    this.endRun();
    this.heldChord.clear();
    this.act(Act.pedal, 0, 0);
    for (let note = 0; note < 128; note++) if (this.held[note]) this.act(Act.release, note, 0);
  }

  /** Somebody wants to hear something again: whatever still rang is gone first. */
  private wake(): void {
    if (this.hush.wake()) this.forget();
  }

  private forget(): void {
    this.sources.a.forget();
    this.sources.b.forget();
    this.band.clear();
    this.sounding = [];
  }

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
      if (this.hush.isMute) {
        left.fill(0, from, from + BLOCK);
        right.fill(0, from, from + BLOCK);
        continue;
      }
      const [l, r] = this.mix;
      l.fill(0);
      r.fill(0);
      if (fromLeft && fromRight) this.feed(fromLeft, fromRight, from);
      if (this.change.waits && this.isAtBar()) this.makeChange();
      if (this.phrase) this.walk();
      this.player?.advance(BLOCK);
      this.sources.a.add(l, r);
      this.sources.b.add(l, r);
      this.addBand(l, r);
      this.finish(left, right, from);
      if (this.hush.fade(left, right, from)) this.forget();
    }
  }

  /** What has happened since it was last asked. */
  meter(into: LiveMeter): LiveMeter {
    into.peak = this.peak;
    into.taken = this.most;
    into.playing = this.phrase !== null;
    into.beat = this.player ? this.player.beat : -1;
    into.pattern = this.player ? this.player.run.playing : 0;
    into.changed = this.change.made;
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

  /** Lets the keys that are held lead the patterns: leave them out meanwhile, or give the arpeggios their chord. */
  private lead(): void {
    const { player } = this;
    if (!player) return;
    const out = this.keysDo === 'interrupt' && this.heldChord.count > 0;
    if (out && !player.run.playedOver) player.stop();
    player.run.playedOver = out;
    player.run.chord = this.keysDo === 'arpeggio' ? this.heldChord.notes() : null;
  }

  private makeChange(): void {
    for (const message of this.change.take()) this.receive(message);
  }

  /** A bar begins in the block that comes. */
  private isAtBar(): boolean {
    if (this.player) return this.player.beginsBar(BLOCK);
    return this.phrase === null || (this.next === 0 && this.phraseAt < BLOCK);
  }

  /** Another circuit that the patterns' own values run through. */
  exchange(circuit: number): void {
    this.sources.a.exchange(circuit);
  }

  private runPatterns(message: Extract<LiveMessage, { type: 'run' }>): void {
    this.wake();
    const { patterns, turns, switches = null, tempo, seed } = message;
    if (switches) this.sources.a.prepare(switches.graphs, switches.keys);
    else this.sources.a.restore();
    if (this.player) this.player.change(patterns, turns, switches, seed);
    else {
      const { sampleRate } = this;
      this.player = new PatternPlayer(patterns, turns, switches, sampleRate, tempo, this, seed);
    }
    this.lead();
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
    if (act === Act.press) {
      this.wake();
      this.held[note] = 1;
    }
    if (act === Act.release) this.held[note] = 0;
    this.sources.a.engine?.play(act, note, value, after);
    this.sources.b.engine?.play(act, note, value, after);
  }

  private exchangeFor(source: EngineSource, graph: Graph, tempo: number, fresh: boolean): void {
    if (!source.change(graph, tempo, fresh)) return;
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
