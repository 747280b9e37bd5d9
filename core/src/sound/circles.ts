import type { Edge, GraphNode } from '../circuit/graph';

export interface Group {
  nodes: GraphNode[];
  /** They feed each other, or itself. */
  circle: boolean;
}

/**
 * Nodes in the order in which signals flow, those that feed each other in one group.
 * Source: R. Tarjan, Depth-First Search and Linear Graph Algorithms, SIAM J. Comput. 1 (1972).
 */
export function inCircles(nodes: readonly GraphNode[], edges: readonly Edge[]): Group[] {
  const onward = new Map<string, string[]>(nodes.map((n) => [n.id, []]));
  for (const e of edges) onward.get(e.from.node)?.push(e.to.node);
  const order = new Map(nodes.map((n, i) => [n.id, i]));
  const index = new Map<string, number>();
  const low = new Map<string, number>();
  const stack: string[] = [];
  const groups: string[][] = [];
  const visit = (id: string): void => {
    index.set(id, index.size);
    low.set(id, index.get(id)!);
    stack.push(id);
    for (const next of onward.get(id)!) {
      if (!index.has(next)) {
        visit(next);
        low.set(id, Math.min(low.get(id)!, low.get(next)!));
      } else if (stack.includes(next)) {
        low.set(id, Math.min(low.get(id)!, index.get(next)!));
      }
    }
    if (low.get(id) === index.get(id)) groups.push(stack.splice(stack.indexOf(id)));
  };
  for (const n of nodes) if (!index.has(n.id)) visit(n.id);
  const byId = new Map(nodes.map((n) => [n.id, n]));
  return groups.reverse().map((ids) => ({
    nodes: ids.sort((a, b) => order.get(a)! - order.get(b)!).map((id) => byId.get(id)!),
    circle: ids.length > 1 || onward.get(ids[0]!)!.includes(ids[0]!),
  }));
}
