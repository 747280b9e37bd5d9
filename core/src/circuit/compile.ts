import type { Jack } from '../instrument/jack';
import type { Instrument, Module, Wire } from '../instrument/schema';
import { hasCircuit, isSwitched } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import type { WithFed } from '../patch/feed';
import { soundingValue } from '../reading/format';
import { taperValue } from '../reading/taper';
import { isModuleKind, moduleSpec } from '../catalogue';
import type { Edge, Graph, GraphNode } from './graph';
import { FEED, sortNodes } from './graph';
import { matrixRows } from './matrix';
import { drives } from './standard';

/** What of a patch decides about the circuit. */
export type PanelState = Pick<Patch, 'settings' | 'cables' | 'revision'> &
  Partial<Pick<Patch, 'matrix' | 'feed'>> &
  WithFed;

/** What is heard of an instrument without a circuit. */
const SILENT: Graph = {
  nodes: [{ id: 'none', kind: 'output', name: 'no circuit', params: { level: 1 }, controls: {} }],
  edges: [],
  output: 'none',
};

/**
 * Compiles an instrument and what was done to its panel into a signal graph. Controls without a setting, and those that
 * do not matter, stand where the panel lets them rest. The instrument must have passed `checkInstrument`; of a cabinet it is
 * the face that the patch stands before. An instrument without a circuit gives an output that nothing leads to.
 * @throws Error when the instrument names a module kind that the catalogue does not have
 */
export function compile(instrument: Instrument, patch: PanelState): Graph {
  if (!hasCircuit(instrument)) return SILENT;
  const nodes = modulesOf(instrument, patch.revision).map(toNode);
  const byId = new Map(nodes.map((n) => [n.id, n]));
  for (const control of instrument.controls) {
    const value = soundingValue(control, patch.settings[control.id]);
    if (isSwitched(control)) {
      for (const bound of control.bindings) {
        const setTo = bound.values[String(value)];
        if (setTo !== undefined) turn(byId, bound.module, bound.param, setTo, control.id);
      }
    } else {
      for (const bound of control.bindings) {
        turn(byId, bound.module, bound.param, taperValue(bound.taper, Number(value)), control.id);
      }
    }
  }
  const edges = connect(instrument, patch, byId);
  const fed = feedOf(instrument, patch);
  if (fed) {
    nodes.push(fed.node);
    edges.push(fed.edge);
  }
  if (instrument.matrix) {
    const rows = matrixRows(instrument.matrix, patch.matrix ?? [], (from, to) =>
      toEdge({ from, to }, byId),
    );
    nodes.push(...rows.nodes);
    edges.push(...rows.edges);
  }
  const output = nodes.find((n) => n.kind === 'output');
  // Of a cabinet somebody may have taken the module away by which sound leaves.
  if (!output) return { ...SILENT, nodes: [...nodes, ...SILENT.nodes], edges };
  const graph = { nodes: sortNodes(nodes, edges), edges, output: output.id };
  if (!fed || !patch.fed) return graph;
  const { start, round } = fed.feed;
  return { ...graph, feed: { ...patch.fed, start, round } };
}

/** What is fed in: the module that plays it, and where it leads. */
function feedOf(instrument: Instrument, { feed }: PanelState) {
  const jack = instrument.jacks.find((j) => j.id === feed?.jack && j.direction === 'in');
  if (!feed || !jack?.port) return undefined;
  const [node = '', port = ''] = jack.port.split('.');
  return {
    feed,
    node: {
      ...toNode({ id: FEED, kind: 'external', params: { level: feed.level } }),
      name: feed.name,
    },
    edge: { from: { node: FEED, port: 'out' }, to: { node, port }, signal: 'audio' as const },
  };
}

/** The instrument's modules with those of a revision in the place of their namesakes. */
export function modulesOf(instrument: Instrument, revision: string | undefined): Module[] {
  const exchanged = instrument.revisions.find((r) => r.id === revision)?.modules ?? [];
  return instrument.circuit.modules.map((m) => exchanged.find((e) => e.id === m.id) ?? m);
}

function toNode(module: Module): GraphNode {
  if (!isModuleKind(module.kind)) throw new Error(`There is no module kind "${module.kind}".`);
  const params: GraphNode['params'] = {};
  for (const [name, spec] of Object.entries(moduleSpec(module.kind).params)) {
    params[name] = module.params[name] ?? spec.default;
  }
  return { id: module.id, kind: module.kind, name: module.name ?? module.id, params, controls: {} };
}

function turn(
  nodes: ReadonlyMap<string, GraphNode>,
  module: string,
  param: string,
  value: number | string,
  control: string,
): void {
  const node = nodes.get(module);
  if (!node) return;
  const spec = moduleSpec(node.kind).params[param];
  if (!spec) return;
  node.params[param] =
    spec.kind === 'number' ? Math.min(spec.hi, Math.max(spec.lo, Number(value))) : String(value);
  node.controls[param] = control;
}

function connect(
  instrument: Instrument,
  patch: PanelState,
  nodes: ReadonlyMap<string, GraphNode>,
): Edge[] {
  const jacks = new Map(instrument.jacks.map((j) => [j.id, j]));
  const plugged = patch.cables.filter((c) => !c.inactive);
  const broken = new Set([...plugged.flatMap((c) => [c.from, c.to]), patch.feed?.jack]);
  const inside = instrument.circuit.wires.filter(
    (w) => w.normalOf === undefined || !broken.has(w.normalOf),
  );
  const edges = inside.map((w) => toEdge(w, nodes));
  for (const cable of plugged) {
    const ends = [jacks.get(cable.from ?? ''), jacks.get(cable.to ?? '')];
    const from = ends.find((j): j is Jack => j?.direction === 'out');
    const to = ends.find((j): j is Jack => j?.direction === 'in');
    if (from?.port && to?.port && drives(from, to)) {
      edges.push({ ...toEdge({ from: from.port, to: to.port }, nodes), cable: cable.id });
    }
  }
  return edges;
}

function toEdge(wire: Wire, nodes: ReadonlyMap<string, GraphNode>): Edge {
  const [fromNode = '', fromPort = ''] = wire.from.split('.');
  const [toNode = '', toPort = ''] = wire.to.split('.');
  // What is not among the modules is a matrix row: an attenuator.
  const spec = moduleSpec(nodes.get(fromNode)?.kind ?? 'attenuator');
  return {
    from: { node: fromNode, port: fromPort },
    to: { node: toNode, port: toPort },
    signal: spec.outputs[fromPort]!,
  };
}
