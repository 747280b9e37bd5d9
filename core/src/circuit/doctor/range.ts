import { formatPhysical } from '../../reading/unit';
import { midiToNote } from '../../theory/note';
import type { GraphNode } from '../graph';
import { edgesInto } from '../graph';
import { isFilter } from '../signal-path';
import type { Audibility } from '../audibility';
import { amountsInto } from './amounts';
import type { Case, Finding } from './finding';
import { mendTo, valueFor } from './mend';

/** Highest cutoff of any filter in Hz. */
const TOP = 20000;
/** Octaves past the top of the range from which an amount is called lost. */
const LOST = 1.5;

/** Cutoffs that are driven past what the filter can reach: told for the lowest and the highest note. */
export function examineRange(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    if (!isFilter(node.kind) || !('cutoff' in node.params) || !reach.heard(node.id, 'out')) {
      return [];
    }
    const moved = edgesInto(c.graph, node.id, 'cutoff').length > 0;
    const wanted = wantedTop(c, node);
    const lost = Math.log2(wanted.low / TOP);
    return moved && lost > LOST ? [past(c, node, wanted, lost)] : [];
  });
}

/** Highest cutoffs in Hz that are asked for on the lowest and the highest note, were there no end to the range. */
function wantedTop(c: Case, node: GraphNode): { low: number; high: number } {
  const top = c.bounds.input(node.id, 'cutoff')[1];
  const track = Number(node.params.track ?? 0) / 100;
  const [low, high] = c.bounds.input(node.id, 'pitch');
  const at = (pitch: number): number => Number(node.params.cutoff) * 2 ** (top + track * pitch);
  return { low: at(low), high: at(high) };
}

function past(
  c: Case,
  node: GraphNode,
  wanted: { low: number; high: number },
  lost: number,
): Finding {
  const notes = c.notes.map((n) => n.note);
  const name = (n: number): string => (Number.isFinite(n) ? midiToNote(n) : '');
  const amounts = amountsInto(c, node, 'cutoff');
  // Taken back by what is lost, each for itself, where that much comes from it.
  const [mend, ...others] = amounts.flatMap(({ id, gain, control }) => {
    const lift = c.bounds.output(id, 'out')[1];
    const value =
      lift > lost
        ? valueFor(c.instrument, control, id, 'gain', gain * (1 - lost / lift))
        : undefined;
    return (control && value !== undefined && mendTo(c.instrument, { [control]: value })) || [];
  });
  return {
    id: `cutoff-past:${node.id}`,
    severity: 'hint',
    title: `${node.name} is driven past the end of its range`,
    why: `Cutoff and amounts ask for ${formatPhysical(wanted.low, 'Hz')} on ${name(Math.min(...notes))} and ${formatPhysical(wanted.high, 'Hz')} on ${name(Math.max(...notes))}; it ends at 20 kHz. The last ${Math.round(lost * 10) / 10} octaves of the amount do nothing but hold it open.`,
    controls: [
      ...amounts.flatMap((a) => a.control ?? []),
      ...(node.controls.cutoff ? [node.controls.cutoff] : []),
    ],
    ...(mend ? { mend, others } : {}),
  };
}
