import type { Interval } from '../../catalogue/interval';
import type { Value } from '../../instrument/schema';
import { SILENT_DUTY } from '../../theory/level';
import type { Bounds } from '../bounds';
import type { GraphNode } from '../graph';
import type { Audibility } from '../audibility';
import { paramLabel, type Case, type Finding, type Mend, type Severity } from './finding';
import type { MatrixRow } from '../../patch/schema';
import { amountsInto, throughAttenuator } from './amounts';
import { mendTo, merged, valueFor } from './mend';

/** Duties, as shares of the cycle and not yet held inside 0..1, that an oscillator's pulse takes; undefined for others. */
export function widthInterval(node: GraphNode, bounds: Bounds): Interval | undefined {
  if (node.kind !== 'oscillator' || node.params.wave !== 'pulse') return undefined;
  const base = Number(node.params.width) / 100;
  const [lo, hi] = bounds.input(node.id, 'width');
  return [base + 0.1 * lo, base + 0.1 * hi];
}

/** A pulse that is at the end of its width all the time. */
export const pulseVanishes = (duty: Interval | undefined): boolean =>
  duty !== undefined && (duty[1] <= SILENT_DUTY || duty[0] >= 1 - SILENT_DUTY);

/** Margin that a mend leaves to either end. */
const SAFE = 0.05;

/** Pulses that vanish, always or at one end of what moves their width. */
export function examinePulses(c: Case, reach: Audibility): Finding[] {
  return c.graph.nodes.flatMap((node) => {
    const duty = widthInterval(node, c.bounds);
    if (!duty || !reach.heard(node.id, 'out')) return [];
    if (pulseVanishes(duty)) return [vanished(c, node)];
    if (duty[0] > SILENT_DUTY && duty[1] < 1 - SILENT_DUTY) return [];
    return [vanishesAtTimes(c, node, duty)];
  });
}

/** Finding of a pulse at the end of its width. */
export function vanished(c: Case, node: GraphNode, severity: Severity = 'wrong'): Finding {
  const control = node.controls.width;
  const wide = Number(node.params.width) > 50;
  const value = valueFor(c.instrument, control, node.id, 'width', 100 * (wide ? 1 - SAFE : SAFE));
  const mend =
    control && value !== undefined ? mendTo(c.instrument, { [control]: value }) : undefined;
  return {
    id: `pulse-vanished:${node.id}`,
    severity,
    title: `The pulse of ${node.name} is so thin that it vanishes`,
    why: `${paramLabel(c, node, 'width')} stands within 1 % of the end of its width.`,
    controls: control ? [control] : [],
    ...(mend ? { mend } : {}),
  };
}

function vanishesAtTimes(c: Case, node: GraphNode, duty: Interval): Finding {
  const base = Number(node.params.width) / 100;
  const swing = Math.max(base - duty[0], duty[1] - base);
  const room = Math.max(0, Math.min(base, 1 - base) - SAFE);
  const middle = valueFor(c.instrument, node.controls.width, node.id, 'width', 50);
  const mends = [
    ...takenBack(c, node, room / swing),
    ...(middle === undefined
      ? []
      : takenBack(c, node, Math.min(1, (0.5 - SAFE) / swing), {
          [node.controls.width!]: middle,
        })),
  ];
  const [mend, ...others] = mends;
  const ends = [duty[0] <= SILENT_DUTY ? 'lower' : '', duty[1] >= 1 - SILENT_DUTY ? 'upper' : ''];
  const amounts = amountsInto(c, node, 'width').flatMap((a) => a.control ?? []);
  return {
    id: `pulse-at-end:${node.id}`,
    severity: 'wrong',
    title: `The pulse of ${node.name} goes silent at the ${ends.filter(Boolean).join(' and ')} end of its modulation`,
    why: `Its width travels from ${percent(duty[0])} to ${percent(duty[1])}; within 1 % of either end a pulse is silent.`,
    controls: [...amounts, ...(node.controls.width ? [node.controls.width] : [])],
    ...(mend ? { mend, others } : {}),
  };
}

/** What moves the width taken back to a share of what it is: by its amounts, or by attenuators put in line. */
function takenBack(
  c: Case,
  node: GraphNode,
  share: number,
  besides: Record<string, Value> = {},
): Mend[] {
  const values = { ...besides };
  const rows: MatrixRow[] = [];
  const lines: Mend[] = [];
  for (const amount of amountsInto(c, node, 'width')) {
    const { control, id, gain, row, cable } = amount;
    const value = valueFor(c.instrument, control, id, 'gain', gain * share);
    if (control && value !== undefined) values[control] = value;
    else if (row) rows.push({ ...row, depth: row.depth * share });
    else if (cable) lines.push(...throughAttenuator(c, cable, share));
  }
  const set = mendTo(c.instrument, values);
  const mends = [
    ...(set ? [set] : []),
    ...rows.map((row) => ({
      text: `Take matrix row ${row.row + 1} back to ${percent(share)} of its depth`,
      settings: {},
      rows: [row],
    })),
    ...lines,
  ];
  return mends.length > 0 ? [merged(mends)] : [];
}

const percent = (share: number): string => `${Math.round(100 * Math.min(1, Math.max(0, share)))} %`;
