import { isSwitched } from '../../instrument/switched';
import { snap } from '../../reading/resolution';
import { taperPosition, taperValue } from '../../reading/taper';
import { nodeOf } from '../graph';
import { foldPath, type PathEdge } from '../signal-path';
import type { Audibility } from '../audibility';
import type { Case, Finding, Mend } from './finding';
import { mendTo } from './mend';

/** Gains between which a pitch is meant to arrive whole, and has only lost or gained a little. */
const NEAR = [0.8, 1.25] as const;
/** Cents an octave from which that is heard. */
const CENTS = 2;

/** Pitches that lose level on their way, so that octaves arrive short, with the gain that repairs it. */
export function examineTuning(c: Case, reach: Audibility): Finding[] {
  const path = foldPath(c.graph, c.notes);
  return path.edges.flatMap((edge) => {
    const cents = 1200 * (edge.gain - 1);
    const off = Math.abs(cents) > CENTS && edge.gain > NEAR[0] && edge.gain < NEAR[1];
    if (edge.signal !== 'pitch' || !off || !reach.nodeHeard(edge.to)) return [];
    // A key's tracking of a filter is a matter of taste; the pitch of what sounds is not.
    if ('track' in nodeOf(c.graph, edge.to).params) return [];
    return [loss(c, edge)];
  });
}

function loss(c: Case, edge: PathEdge): Finding {
  const [from, to] = [nodeOf(c.graph, edge.from).name, nodeOf(c.graph, edge.to).name];
  const octave = Math.round(1200 * edge.gain);
  const repair = 1 / edge.gain;
  const db = 20 * Math.log10(repair);
  const mend = repaired(c, edge);
  return {
    id: `pitch-loss:${edge.from}>${edge.to}`,
    severity: 'wrong',
    title: `The pitch from ${from} to ${to} loses its octaves`,
    why: `It arrives times ${round(edge.gain, 4)}: an octave of 1200 cents comes as ${octave}. A gain of ${round(repair, 4)} (${db > 0 ? '+' : ''}${round(db, 2)} dB) repairs it.`,
    controls: edge.through.flatMap((id) => nodeOf(c.graph, id).controls.gain ?? []),
    cables: edge.cables,
    ...(mend ? { mend } : {}),
  };
}

/** The control on the way that can make the whole gain 1 most exactly. */
function repaired(c: Case, edge: PathEdge): Mend | undefined {
  let best: { id: string; value: number; error: number } | undefined;
  for (const id of edge.through) {
    const node = nodeOf(c.graph, id);
    const control = c.instrument.controls.find((k) => k.id === node.controls.gain);
    if (!control || isSwitched(control)) continue;
    const bound = control.bindings.find((b) => b.module === id && b.param === 'gain');
    if (!bound) continue;
    const wanted = Number(node.params.gain) / edge.gain;
    const ends = [taperValue(bound.taper, 0), taperValue(bound.taper, 1)];
    if (wanted < Math.min(...ends) || wanted > Math.max(...ends)) continue;
    const value = snap(control, taperPosition(bound.taper, wanted) ?? 0);
    const error = Math.abs(taperValue(bound.taper, value) / wanted - 1);
    if (!best || error < best.error) best = { id: control.id, value, error };
  }
  if (!best) return undefined;
  const mend = mendTo(c.instrument, { [best.id]: best.value })!;
  return { ...mend, text: `${mend.text}, then tune on an octave` };
}

const round = (value: number, digits: number): number =>
  Math.round(value * 10 ** digits) / 10 ** digits;
