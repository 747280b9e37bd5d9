import { moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { nodeOf } from '../circuit/graph';

/** Most voices that run side by side. */
export const MOST_VOICES = 16;

/**
 * Voices side by side at each module: everything reached from a module that opens voices runs once a voice, up to the
 * module that closes them; all else runs once.
 */
export function voiceCounts(graph: Graph): Map<string, number> {
  const counts = new Map(graph.nodes.map((n) => [n.id, 1]));
  const queue: string[] = [];
  for (const node of graph.nodes) {
    if (moduleSpec(node.kind).voices !== 'open') continue;
    const count = Math.round(Number(node.params.voices));
    counts.set(node.id, Math.min(MOST_VOICES, Math.max(1, count)));
    queue.push(node.id);
  }
  while (queue.length > 0) {
    const id = queue.shift()!;
    const spec = moduleSpec(nodeOf(graph, id).kind);
    if (spec.voices === 'close') continue;
    for (const edge of graph.edges) {
      if (edge.from.node !== id || spec.shared?.includes(edge.from.port)) continue;
      const next = edge.to.node;
      const most = Math.max(counts.get(next)!, counts.get(id)!);
      if (most === counts.get(next)) continue;
      counts.set(next, most);
      queue.push(next);
    }
  }
  return counts;
}
