import type { Cable } from '../../patch/schema';
import { type Bounds, boundsOf } from '../bounds';
import { compile } from '../compile';
import type { Closed } from '../audibility';
import { edgesInto, type Graph } from '../graph';
import type { Case } from './finding';

/** A plug that breaks wires inside, and the modules that these lead into. */
interface Breaking {
  cable: Cable;
  into: string[];
}

/** The cables of a patch that break a wire by standing in a jack: only their going can bring a way back. */
export function breakingPlugs(c: Case): Breaking[] {
  const broken = new Map<string, string[]>();
  for (const { to, normalOf } of c.instrument.circuit.wires) {
    if (normalOf === undefined) continue;
    broken.set(normalOf, [...(broken.get(normalOf) ?? []), to.split('.')[0]!]);
  }
  return c.patch.cables
    .filter((cable) => !cable.inactive)
    .map((cable) => ({
      cable,
      into: [cable.from, cable.to].flatMap((jack) => (jack && broken.get(jack)) || []),
    }))
    .filter(({ into }) => into.length > 0);
}

/** Modules from which something reaches the port that keeps a module shut, itself among them. */
export function nodesBefore(graph: Graph, { node, port }: Closed): ReadonlySet<string> {
  const seen = new Set([node]);
  const queue = edgesInto(graph, node, port).map((e) => e.from.node);
  while (queue.length > 0) {
    const id = queue.pop()!;
    if (seen.has(id)) continue;
    seen.add(id);
    queue.push(...edgesInto(graph, id).map((e) => e.from.node));
  }
  return seen;
}

interface Opened {
  graph: Graph;
  bounds: Bounds;
}
/** A case may ask for the same cable again and again. */
const opened = new WeakMap<Case, Map<string, Opened>>();

/** What a case comes to when one cable is pulled. */
export function withoutCable(c: Case, cable: Cable): Opened {
  const known = opened.get(c) ?? new Map<string, Opened>();
  opened.set(c, known);
  const found = known.get(cable.id);
  if (found) return found;
  const cables = c.patch.cables.filter((other) => other !== cable);
  const graph = compile(c.instrument, { ...c.patch, cables });
  const made = { graph, bounds: boundsOf(graph, c.notes) };
  known.set(cable.id, made);
  return made;
}
