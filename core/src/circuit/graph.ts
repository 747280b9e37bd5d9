import { moduleSpec, type ModuleKind, type SignalKind } from './catalogue';

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
}

export const nodeOf = (graph: Graph, id: string): GraphNode => {
  const node = graph.nodes.find((n) => n.id === id);
  if (!node) throw new Error(`The graph has no module "${id}".`);
  return node;
};

export const edgesInto = (graph: Graph, node: string, port?: string): Edge[] =>
  graph.edges.filter((e) => e.to.node === node && (port === undefined || e.to.port === port));

export const edgesFrom = (graph: Graph, node: string, port?: string): Edge[] =>
  graph.edges.filter((e) => e.from.node === node && (port === undefined || e.from.port === port));

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
  const waiting = new Map(nodes.map((n) => [n.id, n]));
  const sorted: GraphNode[] = [];
  while (waiting.size > 0) {
    const ready = [...waiting.values()].filter(
      (n) =>
        !edges.some((e) => e.to.node === n.id && e.from.node !== n.id && waiting.has(e.from.node)),
    );
    const batch = ready.length > 0 ? ready : [[...waiting.values()][0]!];
    for (const node of batch) {
      sorted.push(node);
      waiting.delete(node.id);
    }
  }
  return sorted;
}
