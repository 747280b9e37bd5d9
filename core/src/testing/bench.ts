import type { ModuleKind } from '../circuit/catalogue';
import { moduleSpec } from '../circuit/catalogue';
import type { Edge, Graph, GraphNode } from '../circuit/graph';
import type { TimedNote } from '../sequence/phrase';
import { createEngine } from '../sound/engine';
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
  { sampleRate = 48000, notes = [held(69)], seed = 1 } = {},
): Float64Array {
  const engine = createEngine(graph, { sampleRate, notes, seed });
  const [node = '', name = ''] = port.split('.');
  const buffer = engine.port(node, name);
  const length = Math.round(seconds * sampleRate);
  const out = new Float64Array(length);
  for (let at = 0; at < length; at += BLOCK) {
    const n = Math.min(BLOCK, length - at);
    engine.advance(n);
    out.set(buffer.subarray(0, n), at);
  }
  return out;
}
