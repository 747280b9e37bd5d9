import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { nodeOf } from '../circuit/graph';

/** Most voices that run side by side. */
export const MOST_VOICES = 16;

/**
 * Voices side by side at each module: everything reached from a module that opens lanes runs once a voice, up to the
 * module that closes them; all else runs once.
 */
export function voiceCounts(graph: Graph): Map<string, number> {
  const lanes = new Map(graph.nodes.map((n) => [n.id, 1]));
  const queue: string[] = [];
  for (const node of graph.nodes) {
    if (moduleSpec(node.kind).lanes !== 'opens') continue;
    const count = Math.round(Number(node.params.voices));
    lanes.set(node.id, Math.min(MOST_VOICES, Math.max(1, count)));
    queue.push(node.id);
  }
  while (queue.length > 0) {
    const id = queue.shift()!;
    const spec = moduleSpec(nodeOf(graph, id).kind);
    if (spec.lanes === 'closes') continue;
    for (const edge of graph.edges) {
      if (edge.from.node !== id || spec.shared?.includes(edge.from.port)) continue;
      const next = edge.to.node;
      const most = Math.max(lanes.get(next)!, lanes.get(id)!);
      if (most === lanes.get(next)) continue;
      lanes.set(next, most);
      queue.push(next);
    }
  }
  return lanes;
}
