import type { Instrument } from '../instrument/schema';
import { moduleSpec } from '../catalogue';
import type { Graph } from './graph';

/**
 * A graph as it would be without some controls: each parameter they set stands where it contributes nothing. To hear
 * what something does, one takes it away.
 */
export function bypassing(graph: Graph, controls: Iterable<string>): Graph {
  const gone = new Set(controls);
  if (gone.size === 0) return graph;
  const nodes = graph.nodes.map((node) => {
    const spec = moduleSpec(node.kind).params;
    const changes = Object.entries(node.controls).flatMap(([param, control]) => {
      const about = spec[param];
      if (!gone.has(control) || about?.kind !== 'number' || about.neutral === undefined) return [];
      return [[param, about.neutral] as const];
    });
    return changes.length === 0
      ? node
      : { ...node, params: { ...node.params, ...Object.fromEntries(changes) } };
  });
  return { ...graph, nodes };
}

/** Controls that can be taken away: those with a place where they contribute nothing. */
export function bypassable(instrument: Instrument, graph: Graph): Set<string> {
  const found = new Set<string>();
  for (const node of graph.nodes) {
    for (const [param, control] of Object.entries(node.controls)) {
      const about = moduleSpec(node.kind).params[param];
      if (about?.kind === 'number' && about.neutral !== undefined) found.add(control);
    }
  }
  return new Set(instrument.controls.map((c) => c.id).filter((id) => found.has(id)));
}
