import type { FedSound } from '../patch/feed';
import { moduleSpec, type ModuleKind, type SignalKind } from '../catalogue';

/** A place where a cable or wire ends. */
export interface PortRef {
  node: string;
  port: string;
}

export interface GraphNode {
  id: string;
  kind: ModuleKind;
  /** What people call it. */
  name: string;
  /** Every parameter of the kind, in the catalogue's units. */
  params: Record<string, number | string>;
  /** Control that sets each parameter, by parameter. */
  controls: Record<string, string>;
}

export interface Edge {
  from: PortRef;
  to: PortRef;
  signal: SignalKind;
  /** Cable that makes this connection; absent for what is wired inside. */
  cable?: string;
}

/** Modules and connections that an instrument and a patch make. Nodes stand in order of the signal's flow. */
export interface Graph {
  nodes: GraphNode[];
  edges: Edge[];
  /** Id of the node whose `out` is heard. */
  output: string;
  /** What the node `FEED` plays, where the samples are at hand. */
  feed?: GraphFeed;
}

/** Id of the node that plays what is fed in. */
export const FEED = '+feed';

/** A recording and how it is played. */
export interface GraphFeed extends FedSound {
  start: 'running' | 'key';
  round: boolean;
}

interface Index {
  nodes: Map<string, GraphNode>;
  into: Map<string, Edge[]>;
  from: Map<string, Edge[]>;
}

/** Graphs do not change once they are made: what is looked up of one again and again is looked up once. */
const indexes = new WeakMap<Graph, Index>();

function indexOf(graph: Graph): Index {
  const known = indexes.get(graph);
  if (known) return known;
  const index: Index = {
    nodes: new Map(graph.nodes.map((n) => [n.id, n])),
    into: new Map(),
    from: new Map(),
  };
  const add = (map: Map<string, Edge[]>, key: string, edge: Edge): void => {
    const there = map.get(key);
    if (there) there.push(edge);
    else map.set(key, [edge]);
  };
  for (const edge of graph.edges) {
    add(index.into, edge.to.node, edge);
    add(index.from, edge.from.node, edge);
  }
  indexes.set(graph, index);
  return index;
}

const NO_EDGES: Edge[] = [];

export const nodeOf = (graph: Graph, id: string): GraphNode => {
  const node = indexOf(graph).nodes.get(id);
  if (!node) throw new Error(`The graph has no module "${id}".`);
  return node;
};

export const edgesInto = (graph: Graph, node: string, port?: string): Edge[] => {
  const edges = indexOf(graph).into.get(node) ?? NO_EDGES;
  return port === undefined ? edges : edges.filter((e) => e.to.port === port);
};

export const edgesFrom = (graph: Graph, node: string, port?: string): Edge[] => {
  const edges = indexOf(graph).from.get(node) ?? NO_EDGES;
  return port === undefined ? edges : edges.filter((e) => e.from.port === port);
};

/** Modules that hand on whatever comes in: sound as well as what moves it. */
const PASSING = new Set<ModuleKind>(['attenuator', 'inverter', 'multiple', 'offset', 'slew']);
export const passesOn = (kind: ModuleKind): boolean => PASSING.has(kind);

/** Whether sound goes along a connection: from an audio output, or handed on by what sound comes into. */
export function carriesSound(graph: Graph, edge: Edge, seen = new Set<string>()): boolean {
  if (edge.signal === 'audio') return true;
  const { node } = edge.from;
  if (seen.has(node) || !passesOn(nodeOf(graph, node).kind)) return false;
  seen.add(node);
  return edgesInto(graph, node).some((e) => carriesSound(graph, e, seen));
}

/** Whether an input takes sound, or hands on what it takes. */
export const takesSound = (node: GraphNode, port: string): boolean =>
  passesOn(node.kind) ||
  (moduleSpec(node.kind).inputs as Record<string, SignalKind>)[port] === 'audio';

/**
 * Nodes ordered so that each stands behind what feeds it. Where a circle leaves no such order, the node that was
 * described first goes first: what closes the circle is then heard one sample late.
 */
export function sortNodes(nodes: readonly GraphNode[], edges: readonly Edge[]): GraphNode[] {
  const feeds = new Map<string, Set<string>>(nodes.map((n) => [n.id, new Set()]));
  const open = new Map<string, number>(nodes.map((n) => [n.id, 0]));
  for (const { from, to } of edges) {
    const goals = feeds.get(from.node);
    if (from.node === to.node || !goals || goals.has(to.node) || !open.has(to.node)) continue;
    goals.add(to.node);
    open.set(to.node, open.get(to.node)! + 1);
  }
  const waiting = new Map(nodes.map((n) => [n.id, n]));
  const sorted: GraphNode[] = [];
  while (waiting.size > 0) {
    const ready = [...waiting.values()].filter((n) => open.get(n.id) === 0);
    const batch = ready.length > 0 ? ready : [[...waiting.values()][0]!];
    for (const node of batch) {
      sorted.push(node);
      waiting.delete(node.id);
      for (const goal of feeds.get(node.id)!) open.set(goal, open.get(goal)! - 1);
    }
  }
  return sorted;
}
