import { isQuiet } from '../catalogue/interval';
import type { TimedNote } from '../pattern/timed';
import { boundsOf } from './bounds';
import type { Graph } from './graph';
import { nodeOf } from './graph';
import { closedAt, audibilityOf } from './audibility';

/**
 * The same graph without what cannot be heard while these notes are played: same samples, less work.
 */
export function prune(graph: Graph, notes: readonly TimedNote[]): Graph {
  const bounds = boundsOf(graph, notes);
  const passing: Graph = {
    ...graph,
    edges: graph.edges.filter(
      (e) =>
        !isQuiet(bounds.output(e.from.node, e.from.port)) &&
        !closedAt(nodeOf(graph, e.to.node), e.to.port, bounds),
    ),
  };
  const reach = audibilityOf(passing, bounds);
  const heard = new Set(graph.nodes.filter((n) => reach.nodeHeard(n.id)).map((n) => n.id));
  return {
    nodes: graph.nodes.filter((n) => heard.has(n.id)),
    edges: passing.edges.filter((e) => heard.has(e.from.node) && heard.has(e.to.node)),
    output: graph.output,
    ...(graph.feed ? { feed: graph.feed } : {}),
  };
}
