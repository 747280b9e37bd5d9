import { lowPassOf } from '../low-pass-of';
import { cutoffInterval } from '../../catalogue/low-pass';
import { formatPhysical } from '../../reading/unit';
import { C4_HZ, footageToSemitones } from '../../theory/pitch';
import type { GraphNode } from '../graph';
import { carriesSound, edgesFrom, edgesInto, nodeOf } from '../graph';
import { closedAt, type Audibility } from '../audibility';
import type { Case, Finding } from './finding';
import { mendTo, valueFor } from './mend';

/** Loss in dB of the lowest partial at which nothing is left to hear. */
const GONE = 48;
/** Loss from which the finding is worth a word. */
const DULL = 12;

/** Low-passes whose cutoff stays below the lowest partial all the time. */
export function examineFilters(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    const filter = lowPassOf(node);
    if (!filter || !reach.heard(node.id, 'out') || filter.left <= 0) return [];
    const { slope } = filter;
    const partial = lowestPartial(c, node);
    if (partial === undefined) return [];
    const top = cutoffInterval(node.params, c.bounds.input(node.id, 'cutoff'))[1];
    const loss = slope * Math.log2(partial / top);
    if (loss < DULL) return [];
    return [belowPartial(c, node, partial, top, loss)];
  });
}

/** Pitch in Hz that noise is judged by: it has partials everywhere above it. */
const NOISE = 40;
/** Loss in dB of the loudest partial from which a closed band is worth a word. */
const THIN = 30;

/** High-passes that stand above what the low-pass before them lets through. */
export function examineBands(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((low) => {
    const filter = lowPassOf(low);
    if (!filter || !reach.heard(low.id, 'out') || filter.left <= 0) return [];
    const { slope } = filter;
    const top = cutoffInterval(low.params, c.bounds.input(low.id, 'cutoff'))[1];
    const partial = lowestPartial(c, low) ?? NOISE;
    return highPassesAfter(c, low).flatMap((high) => {
      const floor = Number(high.params.cutoff);
      let best = -Infinity;
      for (let n = 1; n * partial < 20000; n++) {
        const hz = n * partial;
        const lost =
          slope * Math.max(0, Math.log2(hz / top)) + 12 * Math.max(0, Math.log2(floor / hz));
        best = Math.max(best, resonanceBoost(filter.left) - lost);
      }
      // What the low-pass takes alone is another finding.
      const alone = slope * Math.max(0, Math.log2(partial / top));
      return -best - alone < THIN ? [] : [closedBand(c, low, high, partial, top, -best)];
    });
  });
}

/** dB by which resonance can lift a partial at the cutoff, at most. */
const resonanceBoost = (left: number): number =>
  Math.max(0, -20 * Math.log10(Math.max(0.01, left)));

function highPassesAfter(c: Case, low: GraphNode): GraphNode[] {
  const found: GraphNode[] = [];
  const seen = new Set<string>([low.id]);
  const walk = (id: string): void => {
    for (const edge of edgesFrom(c.graph, id)) {
      if (!carriesSound(c.graph, edge) || seen.has(edge.to.node)) continue;
      seen.add(edge.to.node);
      const node = nodeOf(c.graph, edge.to.node);
      if (node.kind === 'high-pass-12') found.push(node);
      // Behind a mixer other paths may bring what this one lacks.
      if (node.kind !== 'mixer') walk(node.id);
    }
  };
  walk(low.id);
  return found;
}

function closedBand(
  c: Case,
  low: GraphNode,
  high: GraphNode,
  partial: number,
  top: number,
  loss: number,
): Finding {
  const gone = loss >= GONE;
  const control = high.controls.cutoff;
  const value = valueFor(c.instrument, control, high.id, 'cutoff', partial / 2);
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return {
    id: `band-closed:${high.id}`,
    severity: gone ? 'silent' : 'wrong',
    title: gone
      ? 'Silent: the high-pass takes what the low-pass leaves'
      : 'Between high-pass and low-pass little is left',
    why: `${capital(low.name)} reaches up to ${formatPhysical(top, 'Hz')}, ${high.name} begins at ${formatPhysical(Number(high.params.cutoff), 'Hz')}: ${Math.round(loss)} dB are lost.`,
    controls: [control, low.controls.cutoff].filter((id) => id !== undefined),
    ...(mend ? { mend } : {}),
  };
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** Frequency in Hz of the lowest fundamental that reaches a filter; undefined when only noise does. */
export function lowestPartial(c: Case, filter: GraphNode): number | undefined {
  const found: number[] = [];
  const seen = new Set<string>();
  const walk = (id: string): void => {
    if (seen.has(id)) return;
    seen.add(id);
    const node = nodeOf(c.graph, id);
    if (isPitched(node)) {
      if (node.params.wave !== 'noise') found.push(fundamental(c, node));
      return;
    }
    for (const edge of edgesInto(c.graph, id)) {
      if (carriesSound(c.graph, edge) && !closedAt(node, edge.to.port, c.bounds))
        walk(edge.from.node);
    }
  };
  walk(filter.id);
  return found.length > 0 ? Math.min(...found) : undefined;
}

/** A source with a pitch of its own. */
const isPitched = (node: GraphNode): boolean => node.params.footage !== undefined;

/** Lowest fundamental of an oscillator over the notes, before modulation. */
export function fundamental(c: Case, node: GraphNode): number {
  const octaves = c.bounds.input(node.id, 'pitch')[0];
  return C4_HZ * 2 ** (octaves + tuning(node) / 12);
}

/** Semitones that an oscillator's own controls put between its key and its pitch. */
export const tuning = (node: GraphNode): number =>
  Number(node.params.octave) +
  Number(node.params.interval) +
  Number(node.params.fine) / 100 +
  footageToSemitones(Number(node.params.footage));

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
