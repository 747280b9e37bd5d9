import { moduleSpec } from '../../catalogue';
import { whistles } from '../low-pass-of';
import { cableText } from '../../patch/cables';
import type { GraphNode } from '../graph';
import { edgesFrom, edgesInto, nodeOf, takesSound } from '../graph';
import { closedAt, type Closed } from '../audibility';
import { breakingPlugs, nodesBefore, withoutCable } from './plugs';
import { pulseVanishes, vanished, widthInterval } from './pulse';
import { paramLabel, type Case, type Finding } from './finding';
import { mendTo, openValue } from './mend';
import type { Value } from '../../instrument/schema';

/** A way from a source to the output, with everything on it that is closed. */
export interface Way {
  source: string;
  closed: Closed[];
}

const PREFERENCE: GraphNode['kind'][] = ['oscillator', 'low-pass-24', 'noise'];

/** Modules that make sound by themselves; of several ways out that are alike, one from the first kind is mended. */
export function soundSources(c: Case): GraphNode[] {
  const sources = c.graph.nodes.filter((n) => {
    if (moduleSpec(n.kind).sounds) return true;
    if (n.kind === 'sub') return edgesInto(c.graph, n.id, 'sync').length > 0;
    if (n.kind === 'oscillator') return !pulseVanishes(widthInterval(n, c.bounds));
    return whistles(n);
  });
  return sources.sort((a, b) => PREFERENCE.indexOf(a.kind) - PREFERENCE.indexOf(b.kind));
}

/** The way out with the fewest closed doors, undefined when there is no way at all. */
export function bestWay(c: Case, sources = soundSources(c)): Way | undefined {
  const best = new Map<string, Closed[]>();
  const waiting: { node: string; way: Way }[] = sources.map((s) => ({
    node: s.id,
    way: { source: s.id, closed: [] },
  }));
  while (waiting.length > 0) {
    waiting.sort((a, b) => a.way.closed.length - b.way.closed.length);
    const { node, way } = waiting.shift()!;
    if (best.has(node)) continue;
    best.set(node, way.closed);
    if (node === c.graph.output) return way;
    for (const edge of edgesFrom(c.graph, node)) {
      const next = nodeOf(c.graph, edge.to.node);
      if (!takesSound(next, edge.to.port)) continue;
      const closed = closedAt(next, edge.to.port, c.bounds);
      waiting.push({
        node: next.id,
        way: { source: way.source, closed: closed ? [...way.closed, closed] : way.closed },
      });
    }
  }
  return undefined;
}

/** Silence for want of a way from any source to the output, or because every way is closed somewhere. */
export function examinePaths(c: Case): Finding[] {
  const sources = soundSources(c);
  const way = bestWay(c, sources);
  if (way?.closed.length === 0) return [];
  const thin = vanishedPulses(c);
  if (thin.length > 0) return thin;
  if (!way) return [noWay(c, sources)];
  const gains = way.closed.filter((g) => g.param !== undefined);
  const findings: Finding[] = [];
  if (gains.length > 0) findings.push(closedGains(c, gains));
  for (const closed of way.closed.filter((g) => g.port !== undefined)) {
    findings.push(closedByPort(c, closed));
  }
  return findings;
}

/** When only pulses that are too thin could be heard, they are the reason for the silence. */
function vanishedPulses(c: Case): Finding[] {
  const thin = c.graph.nodes.filter(
    (n) => n.kind === 'oscillator' && pulseVanishes(widthInterval(n, c.bounds)),
  );
  const open = bestWay(c, thin);
  return open && open.closed.length === 0
    ? [
        vanished(
          c,
          thin.find((n) => n.id === open.source)!,
          'silent',
        ),
      ]
    : [];
}

function closedGains(c: Case, gains: Closed[]): Finding {
  const controls: string[] = [];
  const told: string[] = [];
  const values: Record<string, Value> = {};
  for (const gain of gains) {
    const node = nodeOf(c.graph, gain.node);
    told.push(`${paramLabel(c, node, gain.param!)} ${gain.why}`);
    const control = node.controls[gain.param!];
    if (!control) continue;
    controls.push(control);
    const value = openValue(c.instrument, control);
    if (value !== undefined) values[control] = value;
  }
  const mend = mendTo(c.instrument, values);
  return {
    id: `silent-gain:${gains.map((g) => `${g.node}.${g.param}`).join('+')}`,
    severity: 'silent',
    title: 'Silent: every way to the output is turned down',
    why: `${told.join(', and ')}. No other way from a source to the output is open.`,
    controls,
    ...(mend ? { mend } : {}),
  };
}

function closedByPort(c: Case, closed: Closed): Finding {
  const node = nodeOf(c.graph, closed.node);
  const feeding = edgesInto(c.graph, node.id, closed.port);
  const names = feeding.map((e) => nodeOf(c.graph, e.from.node).name);
  return {
    id: `silent-port:${closed.node}.${closed.port}`,
    severity: 'silent',
    title: `Silent: ${node.name} ${closed.why}`,
    why:
      names.length > 0
        ? `Its ${closed.port} input gets nothing from ${names.join(', ')}.`
        : `Nothing is connected to its ${closed.port} input.`,
    controls: [],
    ...withoutPlug(c, closed),
  };
}

/** The plug whose going would open what it has closed: a normal was broken that is needed. */
function withoutPlug(c: Case, closed: Closed): Pick<Finding, 'mend' | 'cables'> {
  const before = nodesBefore(c.graph, closed);
  const cable = breakingPlugs(c).find(({ cable, into }) => {
    if (!into.some((node) => before.has(node))) return false;
    const { graph, bounds } = withoutCable(c, cable);
    const node = graph.nodes.find((n) => n.id === closed.node)!;
    const port = closedPort(closed, node);
    return port !== undefined && !closedAt(node, port, bounds);
  })?.cable;
  if (!cable) return {};
  return {
    cables: [cable.id],
    mend: {
      text: `Pull ${cableText(c.instrument, cable)}: it breaks a wire that is needed`,
      settings: {},
      pull: [cable.id],
    },
  };
}

/** The audio input that the closed port keeps shut. */
const closedPort = (closed: Closed, node: GraphNode): string | undefined =>
  node.kind === 'amplifier' ? 'in' : closed.port;

function noWay(c: Case, sources: GraphNode[]): Finding {
  const oscillators = c.graph.nodes.filter((n) => n.kind === 'oscillator');
  const pull = breakingPlugs(c).find(
    ({ cable }) => bestWay({ ...c, ...withoutCable(c, cable) }) !== undefined,
  )?.cable;
  const names = sources.map((s) => s.name).join(', ');
  return {
    id: 'silent-no-path',
    severity: 'silent',
    title: 'Silent: nothing leads to the output',
    why:
      sources.length === 0
        ? 'No module makes a sound in this patch.'
        : `There is no path from ${names} to the output.`,
    controls: oscillators.flatMap((n) => Object.values(n.controls).slice(0, 1)),
    ...(pull
      ? { mend: { text: `Pull ${cableText(c.instrument, pull)}`, settings: {}, pull: [pull.id] } }
      : {}),
  };
}
