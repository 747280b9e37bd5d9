import { conversion } from './convert-unit';
import type { NumberParam } from '../catalogue';
import type { ContinuousControl, PhysicalUnit, Taper } from '../instrument/schema';
import { formatPhysical } from './unit';
import { invertMonotone } from './interpolate';
import { scaleReading, taperValue } from './taper';

/** What the numbers of a scale say of a parameter: how it is turned, or why it cannot be so. */
export type PrintedTaper = { taper: Taper } | { why: string };

/** What a parameter amounts to where it is not spoken of in its own unit, as in a binding. */
export interface Reads {
  unit: PhysicalUnit;
  factor: number;
}

/**
 * The taper that a control's own numbers say, where they have a unit: printed from 16 Hz to 16 kHz, it turns from 16 Hz to
 * 16 kHz, and between the numbers as it is read.
 * @returns undefined when nothing with a unit is printed or shown
 */
export function printedTaper(
  { scale }: Pick<ContinuousControl, 'scale'>,
  param: NumberParam,
  name: string,
  reads?: Reads,
): PrintedTaper | undefined {
  if (!scale || scale.unit === '') return undefined;
  const own = param.unit as PhysicalUnit;
  const [unit, factor] = reads ? [reads.unit, reads.factor] : [own, 1];
  const convert = conversion(scale.unit, unit);
  const [first, last] = [scale.marks[0]!.value, scale.marks.at(-1)!.value];
  const printed = `The panel says ${formatPhysical(first, scale.unit)} to ${formatPhysical(last, scale.unit)}`;
  if (!convert) return { why: `${printed}; ${name} is set in ${unit || 'plain numbers'}.` };
  const said = (position: number): number => convert.to(scaleReading(scale, position)) / factor;
  // Nought of what never quite gets there, a time or a rate, is the least of it.
  const fromNought = param.lo > 0 && (unit === 'Hz' || unit === 's');
  const set = (position: number): number =>
    fromNought && said(position) >= 0 ? Math.max(param.lo, said(position)) : said(position);
  const ends = [set(0), set(1)];
  const slack = 1e-9 * Math.max(Math.abs(param.lo), Math.abs(param.hi));
  const fits = ends.every((v) => v >= param.lo - slack && v <= param.hi + slack);
  if (!fits) {
    const range = [param.lo, param.hi].map((v) => formatPhysical(v * factor, unit));
    return { why: `${printed}; ${name} goes from ${range.join(' to ')}.` };
  }
  const within = (value: number): number => tidy(Math.min(param.hi, Math.max(param.lo, value)));
  const [lo, hi] = ends.map(within) as [number, number];
  const places = scale.marks.flatMap(({ at }, i) => {
    const next = scale.marks[i + 1];
    return next ? [at, (at + next.at) / 2] : [at];
  });
  const simple: Taper[] = [
    { kind: 'linear', lo, hi, unit: own },
    ...(lo > 0 && hi > 0 ? [{ kind: 'exponential' as const, lo, hi, unit: own }] : []),
  ];
  const held = fromNought && ends.includes(param.lo) && (said(0) === 0 || said(1) === 0);
  const exact = simple.find(
    (taper) =>
      !held &&
      places.every((p) => Math.abs(taperValue(taper, p) - set(p)) <= 1e-4 * span(set(p), lo, hi)),
  );
  if (exact) return { taper: exact };
  const marks = scale.marks.map((m) => m.at);
  // From the least on it is as printed: a place just above it says so.
  if (held) marks.push(invertMonotone(said, 2 * param.lo));
  marks.sort((a, b) => a - b);
  const points = (convert.curved ? between(marks) : marks).map((at): [number, number] => [
    at,
    within(set(at)),
  ]);
  const byRatio = convert.curved || scale.by === 'ratio';
  return {
    taper: {
      kind: 'table',
      points,
      unit: own,
      straight: true,
      ...(byRatio ? { by: 'ratio' as const } : {}),
    },
  };
}

/** What an error is held against: the value, or where both signs occur the whole range. */
const span = (value: number, lo: number, hi: number): number =>
  lo * hi > 0 ? Math.abs(value) : Math.abs(hi - lo);

/** Marks and places between them, so that a curve is met: 64 in all at most. */
function between(marks: readonly number[]): number[] {
  const each = Math.max(1, Math.floor(63 / (marks.length - 1)));
  const all = marks.slice(1).flatMap((b, i) => {
    const a = marks[i]!;
    return Array.from({ length: each }, (_, k) => a + (k / each) * (b - a));
  });
  return [...all, marks.at(-1)!];
}

const tidy = (value: number): number => Number(value.toPrecision(9));
