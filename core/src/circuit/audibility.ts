import { moversOf } from '../catalogue/by-voltage';
import { type Interval, isQuiet } from '../catalogue/interval';
import type { Closing } from '../catalogue/situation';
import type { Bounds } from './bounds';
import type { Edge, Graph, GraphNode } from './graph';
import { edgesFrom, edgesInto, nodeOf } from './graph';
import { moduleSpec } from '../catalogue';

/** Why nothing passes from an input of a module to its outputs. */
export interface Closed extends Closing {
  node: string;
}

/** Why an input does not matter at a module, or undefined when it does. */
export function closedAt(node: GraphNode, port: string, bounds: Bounds): Closed | undefined {
  const input = (name: string): Interval => bounds.input(node.id, name);
  const spec = moduleSpec(node.kind);
  const why = spec.closes?.(port, { params: node.params, input });
  if (!why) return undefined;
  // What stands closed by hand may be opened by a voltage.
  const opened =
    why.param !== undefined && moversOf(spec, why.param).some((mover) => !isQuiet(input(mover)));
  return opened ? undefined : { node: node.id, ...why };
}

/** What is heard of a graph: outputs from which something reaches the output socket. */
export interface Audibility {
  /** True when a change at this output can be heard. */
  heard(node: string, port: string): boolean;
  /** True when any output of the module is heard. */
  nodeHeard(node: string): boolean;
  /** First thing that stops this output on its way, undefined when it is heard or leads nowhere. */
  stopped(node: string, port: string): Closed | undefined;
}

/** Walks the graph back from its output, through every input that matters. */
export function audibilityOf(graph: Graph, bounds: Bounds): Audibility {
  const heard = new Set<string>();
  const queue = [graph.output];
  heard.add(`${graph.output}.out`);
  const seen = new Set<string>();
  while (queue.length > 0) {
    const id = queue.shift()!;
    const node = nodeOf(graph, id);
    for (const edge of edgesInto(graph, id)) {
      if (!portMatters(node, edge.to.port, heard)) continue;
      const key = `${edge.from.node}.${edge.from.port}>${edge.to.node}.${edge.to.port}`;
      if (seen.has(key) || closedAt(node, edge.to.port, bounds)) continue;
      seen.add(key);
      heard.add(`${edge.from.node}.${edge.from.port}`);
      queue.push(edge.from.node);
    }
  }
  const nodeHeard = (id: string): boolean =>
    Object.keys(moduleSpec(nodeOf(graph, id).kind).outputs).some((p) => heard.has(`${id}.${p}`));
  return {
    heard: (node, port) => heard.has(`${node}.${port}`),
    nodeHeard,
    stopped: (node, port) => firstStop(graph, bounds, nodeHeard, node, port),
  };
}

/** Whether an input changes any of the outputs that are heard. */
function portMatters(node: GraphNode, port: string, heard: ReadonlySet<string>): boolean {
  if (node.kind !== 'oscillator') return true;
  const sound = heard.has(`${node.id}.out`);
  const master = heard.has(`${node.id}.sync`);
  if (port === 'width') return sound;
  // Noise has no cycle: pitch and sync matter only to what is synced to it.
  return master || (sound && node.params.wave !== 'noise');
}

function firstStop(
  graph: Graph,
  bounds: Bounds,
  nodeHeard: (id: string) => boolean,
  node: string,
  port: string,
  seen = new Set<string>(),
): Closed | undefined {
  const key = `${node}.${port}`;
  if (seen.has(key)) return undefined;
  seen.add(key);
  const onward: Edge[] = edgesFrom(graph, node, port);
  for (const edge of onward) {
    const closed = closedAt(nodeOf(graph, edge.to.node), edge.to.port, bounds);
    if (closed) return closed;
  }
  for (const edge of onward) {
    if (nodeHeard(edge.to.node)) continue;
    for (const next of Object.keys(moduleSpec(nodeOf(graph, edge.to.node).kind).outputs)) {
      const found = firstStop(graph, bounds, nodeHeard, edge.to.node, next, seen);
      if (found) return found;
    }
  }
  return undefined;
}
