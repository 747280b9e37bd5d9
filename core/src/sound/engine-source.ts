import type { Graph } from '../circuit/graph';
import type { ParamChange } from '../circuit/param-changes';
import { Engine, FULL_SCALE_VOLTS } from './engine';
import { BLOCK } from './kernel';

const FADE_SECONDS = 0.012;

/** A sound that was made elsewhere, both sides, played round and round. */
interface Recording {
  left: Float32Array;
  right: Float32Array;
  /** Its samples for one of ours. */
  step: number;
}

/** An engine and the buffers at its sockets. */
interface Playing {
  engine: Engine;
  left: Float64Array;
  right: Float64Array;
}

const playing = (engine: Engine): Playing => ({
  engine,
  left: engine.port(engine.graph.output, 'left'),
  right: engine.port(engine.graph.output, 'right'),
});

/** Numbers that move while it plays stand in an array: in fields of their own each change could be something to collect. */
const enum At {
  /** Share of it that is heard, 0..1, and where that is on its way to. */
  heard,
  goal,
  /** Level beside the other sound. */
  gain,
  /** Share of what is leaving, 1 to 0. */
  fade,
  /** Place in the recording. */
  place,
}

/** One of two sounds that can be switched between: a patch, or a recording. */
export class EngineSource {
  private now: Playing | null = null;
  private leaving: Playing | null = null;
  private recording: Recording | null = null;
  /** Circuits that the patterns' own values run through, by what has a value of its own in them; the first of all by nothing. */
  private readonly others = new Map<string, Playing>();
  private circuits: (Playing | null)[] = [];
  /** What hands have turned since the circuit was made. */
  private readonly turned = new Map<string, ParamChange>();
  private readonly S = Float64Array.of(0, 0, 1, 0, 0);
  /** Most that a share changes in a block. */
  private readonly step: Float64Array;

  /** @param seed of everything random in its circuits */
  constructor(
    private readonly sampleRate: number,
    heard: boolean,
    private readonly seed = 1,
  ) {
    this.S[At.heard] = this.S[At.goal] = heard ? 1 : 0;
    this.step = Float64Array.of(BLOCK / (FADE_SECONDS * sampleRate));
  }

  get engine(): Engine | null {
    return this.now?.engine ?? null;
  }
  set gain(gain: number) {
    this.S[At.gain] = gain;
  }
  set wanted(wanted: boolean) {
    this.S[At.goal] = wanted ? 1 : 0;
  }

  /**
   * Goes over to another graph, in which what is the same goes on.
   * @param fresh it is another instrument's: nothing goes on
   * @returns true when it knows nothing of the keys that are held
   */
  change(graph: Graph, tempo: number, fresh = false): boolean {
    const before = fresh ? null : this.engine;
    this.recording = null;
    const engine = new Engine(graph, {
      sampleRate: this.sampleRate,
      tempo,
      seed: this.seed,
      ...(before ? { after: before } : {}),
    });
    engine.transport.tempo = tempo;
    this.turned.clear();
    if (this.now) {
      this.leaving = this.now;
      this.S[At.fade] = 1;
    }
    this.now = playing(engine);
    this.others.clear();
    this.circuits = [];
    return !before;
  }

  /** Turns a parameter, for good: it stays turned when the circuit begins anew. */
  turn(change: ParamChange): void {
    this.turned.set(`${change.node}.${change.param}`, change);
    this.engine?.turn(change.node, change.param, change.value);
  }

  /** Begins the same circuit anew, with nothing in its delays, filters and envelopes. */
  forget(): void {
    this.leaving = null;
    this.others.clear();
    this.circuits = [];
    if (!this.now) return;
    const { graph, transport } = this.now.engine;
    const { sampleRate, seed } = this;
    const engine = new Engine(graph, { sampleRate, tempo: transport.tempo, seed });
    for (const { node, param, value } of this.turned.values()) engine.turn(node, param, value);
    this.now = playing(engine);
  }

  /** Makes the circuits ready that own values will ask for by their numbers; those that are there already stay. */
  prepare(graphs: readonly Graph[], keys: readonly string[]): void {
    const { now } = this;
    if (!now) return;
    if (this.others.size === 0) this.others.set('{}', now);
    const { sampleRate, seed } = this;
    const { tempo } = now.engine.transport;
    this.circuits = graphs.map((graph, i) => {
      const key = keys[i]!;
      const made = this.others.get(key) ?? playing(new Engine(graph, { sampleRate, seed, tempo }));
      this.others.set(key, made);
      return made;
    });
  }

  /** Goes over to one of the circuits that are ready, from which all goes on but for its switches. */
  exchange(circuit: number): void {
    const next = this.circuits[circuit];
    const { now } = this;
    if (!next || !now || next === now) return;
    next.engine.takeOver(now.engine);
    this.leaving = now;
    this.S[At.fade] = 1;
    this.now = next;
  }

  /** Back to the circuit that the panel has. */
  restore(): void {
    const first = this.others.get('{}');
    if (first) {
      this.circuits = [first];
      this.exchange(0);
    }
    this.others.clear();
    this.circuits = [];
  }

  record(left: Float32Array, right: Float32Array, sampleRate: number): void {
    this.clear();
    this.recording = { left, right, step: sampleRate / this.sampleRate };
    this.S[At.place] = 0;
  }

  clear(): void {
    this.now = this.leaving = null;
    this.recording = null;
  }

  /** Computes the next n samples, a block at most, and adds them to both sides. */
  add(l: Float64Array, r: Float64Array, n = BLOCK): void {
    const { S } = this;
    const before = S[At.heard]!;
    const step = this.step[0]!;
    const way = S[At.goal]! - before;
    if (way > step) S[At.heard] = before + step;
    else if (way < -step) S[At.heard] = before - step;
    else S[At.heard] = S[At.goal]!;
    if (this.recording) {
      this.addRecording(this.recording, before, l, r);
      return;
    }
    const rise = (S[At.heard] - before) / n;
    const { now, leaving } = this;
    if (!now) return;
    now.engine.advance(n);
    const gain = S[At.gain]! / FULL_SCALE_VOLTS;
    const { left, right } = now;
    if (leaving) {
      leaving.engine.advance(n);
      const fade = S[At.fade]!;
      const next = fade > step ? fade - step : 0;
      S[At.fade] = next;
      const fadeStep = (next - fade) / n;
      const ol = leaving.left;
      const or = leaving.right;
      for (let i = 0; i < n; i++) {
        const old = fade + fadeStep * i;
        const g = gain * (before + rise * i);
        l[i] = l[i]! + g * (left[i]! + old * (ol[i]! - left[i]!));
        r[i] = r[i]! + g * (right[i]! + old * (or[i]! - right[i]!));
      }
      if (next <= 0) this.leaving = null;
      return;
    }
    if (before === 0 && rise === 0) return;
    for (let i = 0; i < n; i++) {
      const g = gain * (before + rise * i);
      l[i] = l[i]! + g * left[i]!;
      r[i] = r[i]! + g * right[i]!;
    }
  }

  private addRecording(
    { left, right, step }: Recording,
    before: number,
    l: Float64Array,
    r: Float64Array,
  ): void {
    const { S } = this;
    const rise = (S[At.heard]! - before) / BLOCK;
    let place = S[At.place]!;
    for (let i = 0; i < BLOCK; i++) {
      const k = Math.floor(place);
      const t = place - k;
      const next = k + 1 < left.length ? k + 1 : 0;
      const g = S[At.gain]! * (before + rise * i);
      l[i] = l[i]! + g * (left[k]! + t * (left[next]! - left[k]!));
      r[i] = r[i]! + g * (right[k]! + t * (right[next]! - right[k]!));
      place += step;
      if (place >= left.length) place -= left.length;
    }
    S[At.place] = place;
  }
}
