import type { Instrument } from '../../instrument/schema';
import { jackLabel } from '../../patch/cables';
import type { Patch } from '../../patch/schema';
import { type Edge, edgesInto, type Graph, nodeOf, passesOn, takesSound } from '../graph';
import { isFilter, type Path, type PathEdge, type PathNode } from './fold';

export type ShapeKind =
  | 'classic'
  | 'parallel'
  | 'in-line'
  | 'hand'
  | 'layers'
  | 'shared'
  | 'attenuated'
  | 'vibrato'
  | 'bypass';

/** A shape that practitioners see in a patch instead of single cords. */
export interface PathShape {
  kind: ShapeKind;
  title: string;
  text: string;
  nodes: string[];
}

/** One of several sounds that meet in a mixer: it can be heard alone. */
export interface Layer {
  /** Module in which they meet, and the one through which this one comes. */
  meets: string;
  from: string;
  name: string;
  /** Everything that belongs to it alone. */
  nodes: string[];
  /** It has an amplifier of its own, opened by an envelope of its own. */
  own: boolean;
}

const nameOf = (path: Path, id: string): string => path.nodes.find((n) => n.id === id)?.name ?? id;
const list = (names: readonly string[]): string =>
  names.length < 2 ? names.join('') : `${names.slice(0, -1).join(', ')} and ${names.at(-1)}`;

const carries = (edge: PathEdge): boolean => edge.signal === 'audio';

/** Modules whose sound reaches a module, or those that its sound reaches, itself left out. */
function walk(path: Path, id: string, way: 'up' | 'down'): Set<string> {
  const [here, there] = way === 'up' ? (['to', 'from'] as const) : (['from', 'to'] as const);
  const seen = new Set<string>();
  const waiting = [id];
  while (waiting.length > 0) {
    const at = waiting.shift()!;
    for (const edge of path.edges) {
      if (!carries(edge) || edge[here] !== at || seen.has(edge[there])) continue;
      seen.add(edge[there]);
      waiting.push(edge[there]);
    }
  }
  return seen;
}

const envelopesInto = (path: Path, id: string, port: string): string[] =>
  path.edges
    .filter((e) => e.to === id && e.ports.includes(port))
    .map((e) => e.from)
    .filter((from) => path.nodes.find((n) => n.id === from)?.kind === 'envelope');

/** The layers of a patch: sounds that meet in one module, last meeting first. */
export function layersOf(path: Path): Layer[] {
  const found: Layer[] = [];
  for (const node of [...path.nodes].reverse()) {
    const comes = path.edges.filter((e) => carries(e) && e.to === node.id);
    const from = [...new Set(comes.map((e) => e.from))];
    if (from.length < 2 || node.kind === 'ring') continue;
    const owns = from.map((id) => new Set([id, ...walk(path, id, 'up')]));
    from.forEach((id, i) => {
      const others = new Set(owns.filter((_, k) => k !== i).flatMap((s) => [...s]));
      const nodes = [...owns[i]!].filter((n) => !others.has(n));
      // What is only a copy of the others is no sound of its own.
      if (nodes.length === 0) return;
      const amplifier = nodes.find((n) => path.nodes.find((p) => p.id === n)?.kind === 'amplifier');
      const own = amplifier !== undefined && envelopesInto(path, amplifier, 'cv').length > 0;
      const sources = nodes.filter((n) => path.nodes.find((p) => p.id === n)?.family === 'source');
      const told = (sources.length > 0 ? sources : [id]).map((n) => nameOf(path, n));
      found.push({ meets: node.id, from: id, name: list(told), nodes, own });
    });
  }
  return found;
}

/** A graph in which of all that meets in a module only one layer comes through. */
export function onlyLayer(graph: Graph, layer: Pick<Layer, 'meets' | 'nodes'>): Graph {
  const mine = new Set(layer.nodes);
  const meets = nodeOf(graph, layer.meets);
  const others = (e: Edge): boolean =>
    e.to.node === meets.id && takesSound(meets, e.to.port) && !comesFrom(graph, e, mine);
  const edges = graph.edges.filter((e) => !others(e));
  return { ...graph, edges };
}

/** Whether a connection begins in one of some modules, or hands on what does. */
const comesFrom = (graph: Graph, edge: Edge, mine: ReadonlySet<string>): boolean =>
  mine.has(edge.from.node) ||
  (passesOn(nodeOf(graph, edge.from.node).kind) &&
    edgesInto(graph, edge.from.node).some((e) => comesFrom(graph, e, mine)));

/** The recurring shapes in a path, by name. */
export function shapesOf(path: Path, instrument: Instrument, patch: Patch): PathShape[] {
  return [
    ...classic(path),
    ...parallel(path),
    ...inLine(path),
    ...layers(path),
    ...hands(path),
    ...shared(path),
    ...attenuated(path),
    ...vibrato(path),
    ...bypass(path, instrument, patch),
  ];
}

const of = (path: Path, test: (n: PathNode) => boolean): PathNode[] => path.nodes.filter(test);

function classic(path: Path): PathShape[] {
  return of(path, (n) => isFilter(n.kind)).flatMap((filter) => {
    const amplifier = [...walk(path, filter.id, 'down')].find(
      (id) => path.nodes.find((n) => n.id === id)?.kind === 'amplifier',
    );
    if (!amplifier) return [];
    const [level] = envelopesInto(path, amplifier, 'cv');
    const moved = envelopesInto(path, filter.id, 'cutoff').find((id) => id !== level);
    const sources = [...walk(path, filter.id, 'up')].filter(
      (id) => path.nodes.find((n) => n.id === id)?.family === 'source',
    );
    if (!level || !moved || sources.length === 0) return [];
    const say = (id: string): string => nameOf(path, id);
    return [
      {
        kind: 'classic',
        title: 'Through a filter and an amplifier, with two envelopes',
        text: `${list(sources.map(say))} into ${filter.name} into ${say(amplifier)}; ${say(level)} opens the amplifier, ${say(moved)} moves the cutoff.`,
        nodes: [...sources, filter.id, amplifier, level, moved],
      },
    ];
  });
}

function parallel(path: Path): PathShape[] {
  const pairs = of(path, (n) => n.kind === 'filter-pair').filter(
    (n) => path.graph.nodes.find((g) => g.id === n.id)?.params.routing === 'parallel',
  );
  const shapes: PathShape[] = pairs.map((pair) => ({
    kind: 'parallel',
    title: 'Parallel paths',
    text: `${pair.name} passes the sound through both its filters side by side.`,
    nodes: [pair.id],
  }));
  const filters = of(path, (n) => isFilter(n.kind));
  const used = new Set<string>();
  for (const a of filters) {
    if (used.has(a.id)) continue;
    const up = walk(path, a.id, 'up');
    const down = walk(path, a.id, 'down');
    const beside = filters.filter(
      (b) =>
        b !== a &&
        !up.has(b.id) &&
        !down.has(b.id) &&
        [...walk(path, b.id, 'up')].some((id) => up.has(id)) &&
        [...walk(path, b.id, 'down')].some((id) => down.has(id)),
    );
    if (beside.length === 0) continue;
    const all = [a, ...beside];
    all.forEach((f) => used.add(f.id));
    shapes.push({
      kind: 'parallel',
      title: 'Parallel paths',
      text: `The same sound goes through ${list(all.map((f) => f.name))} and is mixed again.`,
      nodes: all.map((f) => f.id),
    });
  }
  return shapes;
}

/** Filters that feed each other directly, from the first to the last. */
function inLine(path: Path): PathShape[] {
  const filter = (id: string): boolean => path.nodes.some((n) => n.id === id && isFilter(n.kind));
  const next = (id: string): string | undefined =>
    path.edges.find((e) => carries(e) && e.from === id && filter(e.to))?.to;
  const firsts = of(
    path,
    (n) =>
      isFilter(n.kind) &&
      !path.edges.some((e) => carries(e) && e.to === n.id && filter(e.from)) &&
      next(n.id) !== undefined,
  );
  return firsts.map(({ id }) => {
    const line = [id];
    for (let to = next(id); to !== undefined && !line.includes(to); to = next(to)) line.push(to);
    return {
      kind: 'in-line',
      title: `${COUNTS[line.length] ?? line.length} filters in line`,
      text: `${line.map((f) => nameOf(path, f)).join(' into ')}: what one takes away, the next does not get.`,
      nodes: line,
    };
  });
}

const COUNTS = ['', '', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine'];

/** A wheel, bender or pedal that moves several things at once. */
function hands(path: Path): PathShape[] {
  return of(path, (n) => n.kind === 'controller').flatMap((hand) => {
    const told = [
      ...new Set(
        path.edges
          .filter((e) => e.from === hand.id)
          .flatMap((e) => e.ports.map((port) => `${nameOf(path, e.to)} ${portName(port)}`)),
      ),
    ];
    if (told.length < 2) return [];
    const goals = path.edges.filter((e) => e.from === hand.id).map((e) => e.to);
    return [
      {
        kind: 'hand',
        title: `One hand, ${(COUNTS[told.length] ?? String(told.length)).toLowerCase()} things: ${hand.name}`,
        text: `${hand.name} moves ${list(told)} at once.`,
        nodes: [hand.id, ...new Set(goals)],
      },
    ];
  });
}

function layers(path: Path): PathShape[] {
  const all = layersOf(path).filter((l) => l.own);
  const meetings = [...new Set(all.map((l) => l.meets))];
  return meetings.flatMap((meets) => {
    const here = all.filter((l) => l.meets === meets);
    if (here.length < 2) return [];
    return [
      {
        kind: 'layers',
        title: `${here.length} layers`,
        text: `${here.map((l) => l.name).join('; ')}: each with an envelope and an amplifier of its own, mixed in ${nameOf(path, meets)}.`,
        nodes: here.flatMap((l) => l.nodes),
      },
    ];
  });
}

const PORTS: Record<string, string> = { mod: 'pitch', cv: 'level', fm: 'frequency' };
const portName = (port: string): string => PORTS[port] ?? port;

function shared(path: Path): PathShape[] {
  return of(path, (n) => n.family === 'modulator').flatMap((source) => {
    const goes = path.edges.filter((e) => e.from === source.id && e.signal === 'modulation');
    const goals = new Set(goes.map((e) => e.to));
    if (goals.size < 2) return [];
    const both = goes.some((e) => e.gain < 0) && goes.some((e) => e.gain > 0);
    const told = goes.map((e) => {
      const way = both ? (e.gain < 0 ? ' down' : ' up') : '';
      return `${nameOf(path, e.to)} ${e.ports.map(portName).join(' and ')}${way}`;
    });
    return [
      {
        kind: 'shared',
        title: `Shared modulation: ${source.name}`,
        text: `${source.name} moves ${list([...new Set(told)])}${both ? ', in opposite directions' : ''}.`,
        nodes: [source.id, ...goals],
      },
    ];
  });
}

function attenuated(path: Path): PathShape[] {
  return path.edges
    .filter((e) => e.cables.length > 0 && e.through.some((id) => scales(path, id)))
    .map((e) => {
      const knob = e.through.find((id) => scales(path, id))!;
      const name = path.graph.nodes.find((n) => n.id === knob)?.name ?? knob;
      return {
        kind: 'attenuated',
        title: 'Attenuated routing',
        text: `${nameOf(path, e.from)} goes through ${name} (times ${Math.round(e.gain * 1000) / 1000}) to ${nameOf(path, e.to)} ${e.ports.map(portName).join(' and ')}.`,
        nodes: [e.from, e.to],
      } as const;
    });
}

const scales = (path: Path, id: string): boolean =>
  path.graph.nodes.find((n) => n.id === id)?.kind === 'attenuator';

function vibrato(path: Path): PathShape[] {
  return of(path, (n) => n.kind === 'lfo').flatMap((lfo) => {
    const { params } = path.graph.nodes.find((n) => n.id === lfo.id)!;
    const wait = Number(params.delay) + (params['fade-kind'] === 'in' ? Number(params.fade) : 0);
    const goals = path.edges.filter(
      (e) => e.from === lfo.id && e.ports.some((p) => p === 'mod' || p === 'pitch'),
    );
    if (wait <= 0 || goals.length === 0) return [];
    return [
      {
        kind: 'vibrato',
        title: 'Delayed vibrato',
        text: `${lfo.name} comes in over ${Math.round(wait * 100) / 100} s and moves the pitch of ${list([...new Set(goals.map((e) => nameOf(path, e.to)))])}.`,
        nodes: [lfo.id, ...goals.map((e) => e.to)],
      },
    ];
  });
}

/** A cable into a normalled audio input that leaves out what the normal would have brought. */
function bypass(path: Path, instrument: Instrument, patch: Patch): PathShape[] {
  const heard = new Set(path.graph.nodes.map((n) => n.id));
  return patch.cables
    .filter((c) => !c.inactive && c.from !== undefined && c.to !== undefined)
    .flatMap((cable) => {
      const jack = instrument.jacks.find((j) => j.id === cable.to);
      const goal = jack?.port.split('.')[0] ?? '';
      if (jack?.signal !== 'audio' || !heard.has(goal)) return [];
      const left = instrument.circuit.wires
        .filter((w) => w.normalOf === jack.id)
        .map((w) => w.from.split('.')[0]!)
        .filter((id) => !heard.has(id));
      if (left.length === 0) return [];
      const names = left.map(
        (id) => instrument.circuit.modules.find((m) => m.id === id)?.name ?? id,
      );
      return [
        {
          kind: 'bypass',
          title: 'Bypass by patching',
          text: `${jackLabel(instrument, cable.from)} goes straight into ${nameOf(path, goal)}: ${list(names)} ${names.length > 1 ? 'are' : 'is'} left out.`,
          nodes: [goal],
        } as const,
      ];
    });
}
