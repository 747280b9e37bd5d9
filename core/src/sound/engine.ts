import { moduleSpec, type NumberParam } from '../catalogue';
import { moversOf } from '../catalogue/by-voltage';
import { type Edge, FEED, type Graph, type GraphNode } from '../circuit/graph';
import type { TimedNote } from '../pattern/timed';
import { type Act, KeyFeed } from './key-feed';
import { adopt, BLOCK, type Kernel, type KernelContext, overwrite, type Transport } from './kernel';
import { kernels } from './kernels';
import { voiceCounts } from './voice-counts';
import { strokes } from './notes';
import { movedParam } from './moved-param';
import { GLIDE_SECONDS, Param } from './param';
import { Random, seedFor } from './random';
import { inCircles } from './circles';

/** Volts at the output that a sample of 1 stands for. */
export const FULL_SCALE_VOLTS = 10;

export interface EngineOptions {
  sampleRate: number;
  /** Keys to play from the start; any order. */
  notes?: readonly TimedNote[];
  /** Same seed, same samples. Default 1. */
  seed?: number;
  /** Quarter notes a minute. Default 120. */
  tempo?: number;
  /** Sound from outside, left and right, played from the start; 1 is full scale. */
  external?: readonly [Float32Array, Float32Array];
  /** An engine to go on from: modules of the same name and kind keep what they remember. */
  after?: Engine;
}

interface Source {
  buffer: Float64Array;
  /** It comes round a circle: what it was a sample ago. */
  late: boolean;
}
interface Mix {
  into: Float64Array;
  from: Source[];
}
/** Something to be computed over a stretch of samples, after all that comes before it. */
type Op = Pick<Kernel, 'process'>;

/** Modules that feed each other in a circle are computed together, sample by sample; all others one by one, in blocks. */
const circleOf = (ops: readonly Op[]): Op => ({
  process(from, to) {
    for (let i = from; i < to; i++) {
      for (let o = 0; o < ops.length; o++) ops[o]!.process(i, i + 1);
    }
  },
});

const NONE: [Float32Array, Float32Array] = [new Float32Array(0), new Float32Array(0)];

/** A graph at work, block by block. Same graph, notes, seed and sample rate: same samples, wherever it runs. */
export class Engine {
  readonly sampleRate: number;
  readonly keys = new KeyFeed();
  readonly transport: Transport;
  /** The graph as it is computed. */
  readonly graph: Graph;
  /** What the modules hear from outside in this block, in V. */
  readonly external: readonly [Float64Array, Float64Array] = [
    new Float64Array(BLOCK),
    new Float64Array(BLOCK),
  ];

  private readonly settings: ReadonlyMap<string, GraphNode['params']>;
  private readonly ops: Op[] = [];
  private readonly outputs = new Map<string, Float64Array[]>();
  private readonly params = new Map<string, Map<string, Param>>();
  private readonly moving: Param[] = [];
  private readonly made = new Map<string, { kind: string; kernels: Kernel[] }>();
  private readonly acts: ReturnType<typeof strokes>;
  private readonly sound: readonly [Float32Array, Float32Array];
  private readonly blocks: number;
  private next = 0;

  constructor(graph: Graph, options: EngineOptions) {
    this.sampleRate = options.sampleRate;
    this.graph = graph;
    this.settings = new Map(graph.nodes.map((n) => [n.id, n.params]));
    this.sound = options.external ?? NONE;
    this.acts = strokes(options.notes ?? [], options.sampleRate);
    this.transport = { tempo: options.tempo ?? 120, sample: 0 };
    this.blocks = Math.max(1, Math.floor((GLIDE_SECONDS * options.sampleRate) / BLOCK));
    const edges = graph.edges.filter((e) => matters(graph, e));
    const voices = voiceCounts(graph);
    for (const node of graph.nodes) {
      for (const port of Object.keys(moduleSpec(node.kind).outputs)) {
        const shared = moduleSpec(node.kind).shared?.includes(port) ?? false;
        const closes = moduleSpec(node.kind).voices === 'close';
        const length = shared || closes ? 1 : voices.get(node.id)!;
        this.outputs.set(
          `${node.id}.${port}`,
          Array.from({ length }, () => new Float64Array(BLOCK)),
        );
      }
    }
    for (const node of graph.nodes) {
      // Sockets that carry the same share their samples.
      const sided = edges.some((e) => e.to.node === node.id && e.to.port !== 'in');
      if (node.kind !== 'output' || sided) continue;
      const out = this.outputs.get(`${node.id}.out`)!;
      for (const side of ['left', 'right']) this.outputs.set(`${node.id}.${side}`, out);
    }
    for (const group of inCircles(graph.nodes, edges)) {
      const places = new Map(group.nodes.map((n, i) => [n.id, i]));
      const ops = group.nodes.flatMap((node) =>
        this.build(node, edges, voices.get(node.id)!, places, options),
      );
      if (group.circle) this.ops.push(circleOf(ops));
      else this.ops.push(...ops);
    }
    if (options.after) this.goOnFrom(options.after);
  }

  /** Computes the next n samples, 1..BLOCK. */
  advance(n: number): void {
    const { transport } = this;
    while (this.next < this.acts.length && this.acts[this.next]!.sample < transport.sample + n) {
      const act = this.acts[this.next++]!;
      this.keys.add(act.sample, act.act, act.note, act.value);
    }
    this.hear(n);
    for (let i = this.moving.length - 1; i >= 0; i--) {
      // A parameter that has arrived needs one more step, in which its slope becomes 0.
      if (!this.moving[i]!.step(n)) {
        this.moving[i] = this.moving[this.moving.length - 1]!;
        this.moving.pop();
      }
    }
    const { ops } = this;
    for (let o = 0; o < ops.length; o++) ops[o]!.process(0, n);
    transport.sample += n;
  }

  /** What stands at a port of the last block, in V (readings in their own unit). The buffer is reused. */
  port(node: string, port: string, voice = 0): Float64Array {
    const buffer = this.voice(node, port, voice);
    if (!buffer) throw new Error(`There is no output "${node}.${port}".`);
    return buffer;
  }

  /** The same, undefined where an output or its voice is none. */
  voice(node: string, port: string, voice: number): Float64Array | undefined {
    return this.outputs.get(`${node}.${port}`)?.[voice];
  }

  /** Something played now: in the next block, so many samples after its beginning. */
  play(act: Act, note: number, value: number, after = 0): void {
    this.keys.add(this.transport.sample + after, act, note, value);
  }

  /** Turns a parameter to a value; it arrives within 8 ms, without a click. False when it has no such number. */
  turn(node: string, param: string, value: number): boolean {
    const found = this.params.get(node)?.get(param);
    if (!found) return false;
    found.set(value, this.blocks);
    if (!this.moving.includes(found)) this.moving.push(found);
    return true;
  }

  private hear(n: number): void {
    const from = this.transport.sample;
    for (let side = 0; side < 2; side++) {
      const sound = this.sound[side]!;
      if (sound.length === 0) continue;
      const into = this.external[side]!;
      for (let i = 0; i < n; i++) into[i] = FULL_SCALE_VOLTS * (sound[from + i] ?? 0);
    }
  }

  private build(
    node: GraphNode,
    edges: readonly Edge[],
    voices: number,
    places: ReadonlyMap<string, number>,
    options: EngineOptions,
  ): Op[] {
    const spec = moduleSpec(node.kind);
    const mixes: Op[] = [];
    const params: Record<string, Param> = {};
    for (const [name, value] of Object.entries(node.params)) {
      if (typeof value !== 'number') continue;
      const about = spec.params[name] as NumberParam | undefined;
      const param = new Param(value, about?.unit === 'Hz' || about?.unit === 's');
      params[name] = param;
    }
    this.params.set(node.id, new Map(Object.entries(params)));
    const input = (port: string, voice: number): Float64Array => {
      const sources = edges
        .filter((e) => e.to.node === node.id && e.to.port === port)
        .flatMap((e) => {
          const out = this.outputs.get(`${e.from.node}.${e.from.port}`)!;
          // Within a circle whoever does not come before comes a sample late.
          const late = (places.get(e.from.node) ?? -1) >= places.get(node.id)!;
          const buffers = voice < 0 ? out : [out[Math.min(voice, out.length - 1)]!];
          return buffers.map((buffer): Source => ({ buffer, late }));
        });
      if (sources.length === 0) return new Float64Array(BLOCK);
      if (sources.length === 1 && !sources[0]!.late) return sources[0]!.buffer;
      const into = new Float64Array(BLOCK);
      mixes.push(mixOf({ into, from: sources }));
      return into;
    };
    // What brings voices together is there once, and so is what gives them out.
    const once = spec.voices !== undefined;
    const movers: Op[] = [];
    const connected = (port: string): boolean =>
      edges.some((e) => e.to.node === node.id && e.to.port === port);
    /** A parameter, as the voltages move it that come in: each voice its own. */
    const numberOf = (name: string, voice: number): Param => {
      const control = params[name] ?? new Param(0, false);
      const ports = moversOf(spec, name).filter(connected);
      if (ports.length === 0) return control;
      const about = spec.params[name] as NumberParam;
      const own = new Param(control.value, control.byRatio);
      movers.push(
        movedParam(
          control,
          own,
          about,
          ports.map((port) => ({
            buffer: input(port, voice),
            by: spec.byVoltage![port]!.by,
            volts: 0,
          })),
        ),
      );
      return own;
    };
    const make = (voice: number): Kernel => {
      const context: KernelContext = {
        sampleRate: options.sampleRate,
        voices,
        voice,
        number: (name) => numberOf(name, once ? -1 : voice),
        choice: (name) => String(node.params[name]),
        input: (port, of) => input(port, of ?? (once ? -1 : voice)),
        connected,
        wanted: (port) => edges.some((e) => e.from.node === node.id && e.from.port === port),
        output: (port, of) => this.port(node.id, port, of ?? voice),
        random: new Random(seedFor(`${node.id}/${voice}`, options.seed ?? 1)),
        keys: this.keys,
        transport: this.transport,
        external: this.external,
        feed: node.id === FEED ? this.graph.feed : undefined,
      };
      return kernels[node.kind](context);
    };
    const built = Array.from({ length: once ? 1 : voices }, (_, voice) => make(voice));
    this.made.set(node.id, { kind: node.kind, kernels: built });
    return [...mixes, ...movers, ...built];
  }

  /**
   * Goes on from where another engine is that runs the same panel but for some switches: what both have stands where it
   * was last turned to, not where the panel has it.
   */
  takeOver(before: Engine): void {
    this.goOn(before);
    for (const [node, own] of this.params) {
      const theirs = before.params.get(node);
      if (!theirs) continue;
      for (const [name, param] of own) {
        const other = theirs.get(name);
        if (!other || this.setOf(node, name) !== before.setOf(node, name)) continue;
        param.follow(other);
        if (!this.moving.includes(param)) this.moving.push(param);
      }
    }
  }

  /** Where the graph has a parameter. */
  private setOf(node: string, param: string): number | string | undefined {
    return this.settings.get(node)?.[param];
  }

  private goOnFrom(before: Engine): void {
    this.goOn(before);
    for (const [node, own] of this.params) {
      for (const [name, param] of own) {
        const value = before.params.get(node)?.get(name)?.value;
        if (value === undefined || value === param.value) continue;
        const goal = param.value;
        param.jump(value);
        param.set(goal, this.blocks);
        this.moving.push(param);
      }
    }
  }

  private goOn(before: Engine): void {
    this.transport.sample = before.transport.sample;
    this.transport.tempo = before.transport.tempo;
    this.next = this.acts.length;
    this.keys.follow(before.keys);
    for (const [id, { kind, kernels: mine }] of this.made) {
      const theirs = before.made.get(id);
      if (theirs?.kind !== kind) continue;
      mine.forEach((k, i) => theirs.kernels[i] && adopt(k.state, theirs.kernels[i].state));
    }
    // What comes round a circle, or was still on its way, goes on too.
    for (const [name, buffers] of this.outputs) {
      const theirs = before.outputs.get(name);
      buffers.forEach((b, i) => theirs?.[i] && overwrite(b, theirs[i]));
    }
  }
}

const mixOf = (mix: Mix): Op => ({
  process(from, to) {
    add(mix, from, to);
  },
});

function add({ into, from: sources }: Mix, from: number, to: number): void {
  const first = sources[0]!;
  const second = sources[1];
  if (second !== undefined && !first.late && !second.late) {
    const a = first.buffer;
    const b = second.buffer;
    for (let i = from; i < to; i++) into[i] = a[i]! + b[i]!;
  } else {
    into.fill(0, from, to);
    addOne(into, first, from, to);
    if (second) addOne(into, second, from, to);
  }
  for (let s = 2; s < sources.length; s++) addOne(into, sources[s]!, from, to);
  // Signals end where the supply does.
  for (let i = from; i < to; i++) {
    const volts = into[i]!;
    if (volts > 20) into[i] = 20;
    else if (volts < -20) into[i] = -20;
  }
}

function addOne(into: Float64Array, { buffer, late }: Source, from: number, to: number): void {
  if (!late) for (let i = from; i < to; i++) into[i] = into[i]! + buffer[i]!;
  // At the beginning of a block the end of the last one still stands there.
  else for (let i = from; i < to; i++) into[i] = into[i]! + buffer[i > 0 ? i - 1 : BLOCK - 1]!;
}

/** A sync line into an oscillator that is not synced makes no circle of the two. */
const matters = (graph: Graph, edge: Edge): boolean =>
  edge.to.port !== 'sync' || graph.nodes.find((n) => n.id === edge.to.node)?.params.sync !== 'off';

/**
 * The engine that was made last. As long as one of its kind is there, what the browser has compiled for it is kept;
 * otherwise the next rendering after a pause would begin several times slower.
 */
let latest: Engine | null = null;

/** Prepares a graph for computing. */
export function createEngine(graph: Graph, options: EngineOptions): Engine {
  latest = new Engine(graph, options);
  return latest;
}
