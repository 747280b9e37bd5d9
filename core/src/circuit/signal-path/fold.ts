import type { TimedNote } from '../../pattern/timed';
import { type Family, moduleSpec, type ModuleKind, type SignalKind } from '../../catalogue';
import type { Edge, Graph, GraphNode } from '../graph';
import { edgesFrom, edgesInto, nodeOf } from '../graph';
import { prune } from '../prune';

export interface PathNode {
  id: string;
  kind: ModuleKind;
  name: string;
  family: Family;
}

/** A way from one module to another; what only scales or copies on the way is folded into it. */
export interface PathEdge {
  from: string;
  to: string;
  /** Inputs of the goal that it reaches. */
  ports: string[];
  signal: SignalKind;
  /** Product of the gains on the way; negative when it is turned over. */
  gain: number;
  /** Modules on the way, from the source on. */
  through: string[];
  /** Cables on the way. */
  cables: string[];
}

/** The signal path of a patch as people see it: what is heard, and what moves it. */
export interface Path {
  nodes: PathNode[];
  edges: PathEdge[];
  /** The graph it was folded from, without what is not heard. */
  graph: Graph;
}

/** Kinds that shape a spectrum. */
export const isFilter = (kind: ModuleKind): boolean => moduleSpec(kind).family === 'filter';

/** Folds a compiled graph: what is heard with these notes, attenuators, inverters and multiples drawn into the ways. */
export function foldPath(whole: Graph, notes: readonly TimedNote[]): Path {
  const graph = prune(whole, notes);
  const kept = graph.nodes.filter((n) => !isFolded(graph, n));
  const edges = new Map<string, PathEdge>();
  for (const node of kept) {
    for (const edge of edgesFrom(graph, node.id)) follow(graph, node, edge, [], edges);
  }
  return {
    nodes: kept.map((n) => ({
      id: n.id,
      kind: n.kind,
      name: n.name,
      family: moduleSpec(n.kind).family,
    })),
    edges: [...edges.values()],
    graph,
  };
}

/** Folded are those with something coming in and going out; one that closes a circle on itself stays. */
const isFolded = (graph: Graph, node: GraphNode): boolean =>
  moduleSpec(node.kind).folds === true &&
  edgesInto(graph, node.id).length > 0 &&
  !edgesInto(graph, node.id).some((e) => e.from.node === node.id);

function follow(
  graph: Graph,
  source: GraphNode,
  edge: Edge,
  way: readonly Edge[],
  found: Map<string, PathEdge>,
): void {
  const next = nodeOf(graph, edge.to.node);
  const all = [...way, edge];
  if (isFolded(graph, next)) {
    // A circle of nothing but attenuators leads nowhere.
    if (way.some((e) => e.to.node === next.id)) return;
    for (const on of edgesFrom(graph, next.id)) follow(graph, source, on, all, found);
    return;
  }
  const through = all.slice(0, -1).map((e) => e.to.node);
  const gain = through.reduce((g, id) => g * gainOf(nodeOf(graph, id)), 1);
  const signal = (moduleSpec(next.kind).inputs as Record<string, SignalKind>)[edge.to.port]!;
  const key = `${source.id}>${next.id}:${signal}:${through.join()}`;
  const known = found.get(key);
  if (known) {
    if (!known.ports.includes(edge.to.port)) known.ports.push(edge.to.port);
    return;
  }
  found.set(key, {
    from: source.id,
    to: next.id,
    ports: [edge.to.port],
    signal,
    gain,
    through,
    cables: all.flatMap((e) => e.cable ?? []),
  });
}

const gainOf = (node: GraphNode): number =>
  node.kind === 'attenuator' ? Number(node.params.gain) : node.kind === 'inverter' ? -1 : 1;
