import type { Graph } from './graph';

/** A parameter turned to another number. */
export interface ParamChange {
  node: string;
  param: string;
  value: number;
}

/**
 * What must be turned to get from one graph to another; null when that takes more than turning: another module, wire or
 * position of a switch.
 */
export function changesBetween(before: Graph, after: Graph): ParamChange[] | null {
  if (before.nodes.length !== after.nodes.length || before.edges.length !== after.edges.length) {
    return null;
  }
  const [was, is] = [before.feed, after.feed];
  if (was?.left !== is?.left || was?.start !== is?.start || was?.round !== is?.round) return null;
  const turns: ParamChange[] = [];
  for (const [i, node] of after.nodes.entries()) {
    const old = before.nodes[i]!;
    if (old.id !== node.id || old.kind !== node.kind) return null;
    for (const [param, value] of Object.entries(node.params)) {
      if (old.params[param] === value) continue;
      // A number of voices is no number to be turned: it decides how many there are.
      if (typeof value !== 'number' || param === 'voices') return null;
      turns.push({ node: node.id, param, value });
    }
  }
  const same = after.edges.every((edge, i) => {
    const old = before.edges[i]!;
    return (
      edge.from.node === old.from.node &&
      edge.from.port === old.from.port &&
      edge.to.node === old.to.node &&
      edge.to.port === old.to.port
    );
  });
  return same ? turns : null;
}
