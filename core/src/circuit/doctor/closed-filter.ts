import { cutoffInterval } from '../../catalogue/low-pass';
import { formatPhysical } from '../../reading/unit';
import type { Audibility } from '../audibility';
import type { GraphNode } from '../graph';
import { lowestPartial } from './filter';
import type { Case, Finding } from './finding';
import { mendTo, valueFor } from './mend';

/** What a two-pole lets through: below its cutoff, above it, on both sides of it, everything but it. */
type Mode = 'low' | 'high' | 'band' | 'notch';

/** One two-pole of a filter, with the cutoffs in Hz that it reaches. */
interface Stage {
  mode: Mode;
  /** Parameter that holds its cutoff. */
  param: string;
  lo: number;
  hi: number;
}

/** dB by which all that comes out is below all that came in, from which it is told. */
const THIN = 22;
/** From here on nothing is left to hear. */
const GONE = 60;
/** Highest partial in Hz that counts. */
const TOP = 20000;
/** dB an octave beyond the cutoff; a band-pass has half of it on each side. */
const SLOPE = 12;

/**
 * Filters that are no plain low-pass (high, band, two in one) whose cutoff stands where almost nothing of what comes in is
 * let through, wherever modulation takes it. Judged by the partials of a saw at the lowest fundamental, along the slopes.
 */
export function examineClosedFilters(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    const stages = stagesOf(c, node);
    if (!stages || !reach.heard(node.id, 'out')) return [];
    const partial = lowestPartial(c, node);
    if (partial === undefined) return [];
    const parallel = node.params.routing === 'parallel';
    const loss = lossOfAll(partial, (hz) => {
      const lost = stages.map((s) => lossAt(s, hz));
      return parallel ? Math.min(...lost) : lost.reduce((a, b) => a + b, 0);
    });
    if (loss < THIN) return [];
    const worst = [...stages].sort(
      (a, b) =>
        lossOfAll(partial, (hz) => lossAt(b, hz)) - lossOfAll(partial, (hz) => lossAt(a, hz)),
    )[0]!;
    return [closed(c, node, worst, partial, loss)];
  });
}

function stagesOf(c: Case, node: GraphNode): Stage[] | undefined {
  const stage = (mode: unknown, param: string): Stage => {
    const volts =
      node.kind === 'high-pass-12' ? ([0, 0] as [number, number]) : c.bounds.input(node.id, param);
    const [lo, hi] = cutoffInterval({ ...node.params, cutoff: node.params[param]! }, volts);
    return { mode: mode as Mode, param, lo, hi };
  };
  if (node.kind === 'high-pass-12') return [stage('high', 'cutoff')];
  if (node.kind === 'state-variable')
    return node.params.mode === 'morph' ? undefined : [stage(node.params.mode, 'cutoff')];
  if (node.kind === 'filter-pair')
    return [stage(node.params.mode1, 'cutoff1'), stage(node.params.mode2, 'cutoff2')];
  return undefined;
}

/** dB that a stage takes of a partial at best. */
function lossAt({ mode, lo, hi }: Stage, hz: number): number {
  const above = SLOPE * Math.max(0, Math.log2(hz / hi));
  const below = SLOPE * Math.max(0, Math.log2(lo / hz));
  if (mode === 'low') return above;
  if (mode === 'high') return below;
  return mode === 'band' ? (above + below) / 2 : 0;
}

/** dB by which all partials of a saw together are less than they were. */
function lossOfAll(partial: number, lossOf: (hz: number) => number): number {
  let [before, after] = [0, 0];
  for (let n = 1; n * partial < TOP; n++) {
    before += 1 / n ** 2;
    after += 10 ** (-lossOf(n * partial) / 10) / n ** 2;
  }
  return 10 * Math.log10(before / after);
}

function closed(
  c: Case,
  node: GraphNode,
  { mode, param, lo, hi }: Stage,
  partial: number,
  loss: number,
): Finding {
  const gone = loss >= GONE;
  const control = node.controls[param];
  const at = mode === 'low' ? hi : mode === 'high' ? lo : hi < partial ? hi : lo;
  const wanted = (Number(node.params[param]) / at) * (mode === 'high' ? partial / 2 : 2 * partial);
  const value = valueFor(c.instrument, control, node.id, param, wanted);
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  const name = node.name.charAt(0).toUpperCase() + node.name.slice(1);
  const passes = {
    low: 'lets through what is below',
    high: 'lets through what is above',
    band: 'lets through what is around',
    notch: 'stands at',
  }[mode];
  return {
    id: `filter-closed:${node.id}`,
    severity: gone ? 'silent' : 'wrong',
    title: gone
      ? `Silent: ${node.name} lets nothing through`
      : `${name} lets almost nothing through`,
    why: `It ${passes} ${formatPhysical(at, 'Hz')}; the lowest note sounds at ${formatPhysical(partial, 'Hz')}, and what is left of it is about ${Math.round(loss)} dB down.`,
    controls: control ? [control] : [],
    ...(mend ? { mend } : {}),
  };
}
