import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import type { TimedNote } from '../pattern/timed';
import { createEngine, type Engine } from './engine';
import { BLOCK } from './kernel';
import { voiceCounts } from './voice-counts';

/** What a port carries over a stretch of time, in V. */
export interface Volts {
  node: string;
  /** An output; of the node that is heard `in`, all that comes to its sockets. */
  port: string;
  low: number;
  high: number;
  /** The direct current in it: the mean. */
  direct: number;
}

export interface VoltsOptions {
  sampleRate: number;
  tempo?: number;
  seed?: number;
}

/** Seconds that are rendered at most; what comes in the first of them is still on its way. */
const LONGEST_S = 2;
const SETTLING_S = 0.02;

/**
 * What stands at the ports of a graph while the first of the notes is held, from 20 ms after its beginning on, two seconds
 * at most; without notes for two seconds. It is rendered and read sample by sample. Of several voices the first is read, of
 * what comes to the output their sum.
 */
export function voltsAt(
  graph: Graph,
  notes: readonly TimedNote[],
  { sampleRate, ...more }: VoltsOptions,
): Volts[] {
  const engine = createEngine(graph, { sampleRate, notes, ...more });
  const first = [...notes].sort((a, b) => a.start - b.start)[0];
  const from = Math.round(((first?.start ?? 0) + SETTLING_S) * sampleRate);
  const seconds = Math.max(0.05, Math.min(LONGEST_S, first?.duration ?? LONGEST_S));
  const to = Math.round(((first?.start ?? 0) + seconds) * sampleRate);
  const taps = tapsOf(graph, engine);
  for (let at = 0; at < to; at += BLOCK) {
    const n = Math.min(BLOCK, to - at);
    engine.advance(n);
    for (const tap of taps) read(tap, Math.max(0, from - at), n);
  }
  return taps.map(({ node, port, low, high, sum, count }) => ({
    node,
    port,
    low: count === 0 ? 0 : low,
    high: count === 0 ? 0 : high,
    direct: count === 0 ? 0 : sum / count,
  }));
}

interface Tap {
  node: string;
  port: string;
  buffers: Float64Array[];
  low: number;
  high: number;
  sum: number;
  count: number;
}

function tapsOf(graph: Graph, engine: Engine): Tap[] {
  const tap = (node: string, port: string, buffers: Float64Array[]): Tap => ({
    node,
    port,
    buffers,
    low: Infinity,
    high: -Infinity,
    sum: 0,
    count: 0,
  });
  const led = new Set(graph.edges.map((e) => `${e.from.node}.${e.from.port}`));
  const outputs = graph.nodes.flatMap((node) =>
    Object.keys(moduleSpec(node.kind).outputs)
      .filter((port) => led.has(`${node.id}.${port}`))
      .map((port) => tap(node.id, port, [engine.port(node.id, port)])),
  );
  const voices = voiceCounts(graph);
  const coming = graph.edges
    .filter((e) => e.to.node === graph.output)
    .flatMap(({ from }) => voicesOf(engine, from.node, from.port, voices.get(from.node) ?? 1));
  return coming.length === 0 ? outputs : [...outputs, tap(graph.output, 'in', coming)];
}

/** The buffers of all voices of an output; voices that meet in it have one. */
function voicesOf(engine: Engine, node: string, port: string, voices: number): Float64Array[] {
  const found = Array.from({ length: voices }, (_, voice) => engine.voice(node, port, voice));
  return found.filter((buffer) => buffer !== undefined);
}

function read(tap: Tap, from: number, to: number): void {
  for (let i = from; i < to; i++) {
    let volts = 0;
    for (const buffer of tap.buffers) volts += buffer[i]!;
    if (volts < tap.low) tap.low = volts;
    if (volts > tap.high) tap.high = volts;
    tap.sum += volts;
    tap.count++;
  }
}
