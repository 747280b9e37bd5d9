import { formatPhysical } from '../../reading/unit';
import { C4_HZ } from '../../theory/pitch';
import { cutoffInterval, whistles } from '../bounds';
import type { GraphNode } from '../graph';
import { edgesInto, nodeOf } from '../graph';
import { closedAt, type Reach } from '../reach';
import type { Case, Finding } from './finding';
import { mendTo, valueFor } from './mend';

/** Loss in dB of the lowest partial at which nothing is left to hear. */
const GONE = 48;
/** Loss from which the finding is worth a word. */
const DULL = 12;

const SLOPE: Partial<Record<GraphNode['kind'], number>> = { 'low-pass-12': 12, 'low-pass-24': 24 };

/** Low-passes whose cutoff stays below the lowest partial all the time. */
export function examineFilters(c: Case, reach: Reach): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    const slope = SLOPE[node.kind];
    if (!slope || !reach.heard(node.id, 'out') || whistles(node)) return [];
    const partial = lowestPartial(c, node);
    if (partial === undefined) return [];
    const top = cutoffInterval(node, c.bounds.input(node.id, 'cutoff'))[1];
    const loss = slope * Math.log2(partial / top);
    if (loss < DULL) return [];
    return [belowPartial(c, node, partial, top, loss)];
  });
}

/** Frequency in Hz of the lowest fundamental that reaches a filter; undefined when only noise does. */
function lowestPartial(c: Case, filter: GraphNode): number | undefined {
  const found: number[] = [];
  const seen = new Set<string>();
  const walk = (id: string): void => {
    if (seen.has(id)) return;
    seen.add(id);
    const node = nodeOf(c.graph, id);
    if (node.kind === 'oscillator') {
      if (node.params.wave !== 'noise') found.push(fundamental(c, node));
      return;
    }
    for (const edge of edgesInto(c.graph, id)) {
      if (edge.signal === 'audio' && !closedAt(node, edge.to.port, c.bounds)) walk(edge.from.node);
    }
  };
  walk(filter.id);
  return found.length > 0 ? Math.min(...found) : undefined;
}

/** Lowest fundamental of an oscillator over the notes, before modulation. */
export function fundamental(c: Case, node: GraphNode): number {
  const octaves = c.bounds.input(node.id, 'pitch')[0];
  return C4_HZ * 2 ** (octaves + tuning(node) / 12);
}

/** Semitones that an oscillator's own controls put between its key and its pitch. */
export const tuning = (node: GraphNode): number =>
  Number(node.params.octave) + Number(node.params.interval) + Number(node.params.fine) / 100;

function belowPartial(
  c: Case,
  node: GraphNode,
  partial: number,
  top: number,
  loss: number,
): Finding {
  const gone = loss >= GONE;
  const control = node.controls.cutoff;
  const wanted = Number(node.params.cutoff) * ((2 * partial) / top);
  const value = valueFor(c.instrument, control, node.id, 'cutoff', wanted);
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return {
    id: `cutoff-below:${node.id}`,
    severity: gone ? 'silent' : 'wrong',
    title: gone
      ? 'Silent: the filter never opens as far as the lowest partial'
      : 'The filter stays below the lowest partial',
    why: `The cutoff reaches ${formatPhysical(top, 'Hz')} at most, the lowest note sounds at ${formatPhysical(partial, 'Hz')}: ${Math.round(loss)} dB are lost.`,
    controls: control ? [control] : [],
    ...(mend ? { mend } : {}),
  };
}
