import type { ModuleKind } from '../catalogue';
import { moduleSpec } from '../catalogue';
import type { Edge, Graph, GraphNode } from '../circuit/graph';
import type { TimedNote } from '../pattern/timed';
import { createEngine, type EngineOptions } from '../sound/engine';
import { BLOCK } from '../sound/kernel';

/** Modules on a test bench: `id: [kind, parameters]`, and wires as `from.port > to.port`. */
export function benchGraph(
  modules: Record<string, [ModuleKind, Record<string, number | string>?]>,
  wires: string[],
  output: string,
): Graph {
  const nodes: GraphNode[] = Object.entries(modules).map(([id, [kind, params]]) => {
    const spec = moduleSpec(kind);
    const defaults = Object.fromEntries(
      Object.entries(spec.params).map(([k, p]) => [k, p.default]),
    );
    return { id, kind, name: id, params: { ...defaults, ...params }, controls: {} };
  });
  const edges: Edge[] = wires.map((wire) => {
    const [from = '', to = ''] = wire.split('>').map((s) => s.trim());
    const [fn = '', fp = ''] = from.split('.');
    const [tn = '', tp = ''] = to.split('.');
    return { from: { node: fn, port: fp }, to: { node: tn, port: tp }, signal: 'audio' };
  });
  return { nodes, edges, output };
}

export const held = (note: number, duration = 1000, start = 0, velocity = 127): TimedNote => ({
  start,
  duration,
  note,
  velocity,
});

/** Every sample, in V, of a port. */
export function record(
  graph: Graph,
  port: string,
  seconds: number,
  { sampleRate = 48000, notes = [held(69)], ...more }: Partial<EngineOptions> = {},
  voice = 0,
): Float64Array {
  const engine = createEngine(graph, { sampleRate, notes, ...more });
  const [node = '', name = ''] = port.split('.');
  const buffer = engine.port(node, name, voice);
  const length = Math.round(seconds * sampleRate);
  const out = new Float64Array(length);
  for (let at = 0; at < length; at += BLOCK) {
    const n = Math.min(BLOCK, length - at);
    engine.advance(n);
    out.set(buffer.subarray(0, n), at);
  }
  return out;
}

/** What a module makes of a single sample of 1 mV, in its ports' volts: its small-signal impulse response. */
export function impulseResponse(
  kind: ModuleKind,
  params: Record<string, number | string>,
  seconds: number,
  sampleRate = 48000,
): Float64Array {
  const click = new Float32Array([1e-4]);
  const graph = benchGraph(
    { source: ['external'], m: [kind, params], out: ['output'] },
    ['source.out > m.in', 'm.out > out.in'],
    'out',
  );
  return record(graph, 'm.out', seconds, { sampleRate, notes: [], external: [click, click] });
}

/** Amplitude of a sound at a frequency in Hz: the magnitude of its Fourier transform there. */
export function amplitudeAt(sound: ArrayLike<number>, hz: number, sampleRate = 48000): number {
  let [re, im] = [0, 0];
  const step = (2 * Math.PI * hz) / sampleRate;
  const [turnRe, turnIm] = [Math.cos(step), Math.sin(step)];
  let [atRe, atIm] = [1, 0];
  for (let i = 0; i < sound.length; i++) {
    // Turned on from sample to sample, and put right now and then: much faster than a sine for each.
    if ((i & 1023) === 0) {
      atRe = Math.cos(step * i);
      atIm = Math.sin(step * i);
    }
    re += sound[i]! * atRe;
    im += sound[i]! * atIm;
    const was = atRe;
    atRe = atRe * turnRe - atIm * turnIm;
    atIm = was * turnIm + atIm * turnRe;
  }
  return Math.hypot(re, im);
}

/** Frequency in Hz at which a function of frequency is highest, between two others, to 0.1 cents. */
export function peakBetween(f: (hz: number) => number, low: number, high: number): number {
  // Golden section over the logarithm.
  const ratio = (Math.sqrt(5) - 1) / 2;
  let [a, b] = [Math.log2(low), Math.log2(high)];
  while (b - a > 1e-4) {
    const c = b - ratio * (b - a);
    const d = a + ratio * (b - a);
    if (f(2 ** c) > f(2 ** d)) b = d;
    else a = c;
  }
  return 2 ** ((a + b) / 2);
}

/** Frequency in Hz by counting the periods of a sound between its first and last rise through nothing. */
export function countedHz(sound: ArrayLike<number>, sampleRate = 48000): number {
  let [count, first, last] = [0, 0, 0];
  for (let i = 0; i < sound.length - 1; i++) {
    if (sound[i]! < 0 && sound[i + 1]! >= 0) {
      last = i + sound[i]! / (sound[i]! - sound[i + 1]!);
      if (count++ === 0) first = last;
    }
  }
  return ((count - 1) * sampleRate) / (last - first);
}
