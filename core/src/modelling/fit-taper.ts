import type { PhysicalUnit, Taper } from '../instrument/schema';
import type { Point } from '../reading/interpolate';
import { taperValue } from '../reading/taper';

/** A taper through measured places, with how far it misses each of them. */
export interface FittedTaper {
  taper: Taper;
  /** Value at each place less what was measured there, in the taper's unit. */
  errors: number[];
  /** The greatest of them as a share: of the value where all have one sign, else of the whole range. */
  worst: number;
}

/** A curve that misses by less than this is taken before a table: readings of a knob are no better. */
const GOOD = 0.03;

/**
 * Fits tapers to what a control comes to at two places or more: a straight line and, where all values have one sign, an
 * even ratio, each by least squares (of the values, of their logarithms), and a monotone table through the places (for
 * frequencies and times of their logarithms), whose ends follow the better of the two. Values may stand still for a while:
 * a knob that does nothing until 8 is no curve, and only a table says so. The one to propose comes first: the simplest that misses by less than 3 %; through two
 * places an even ratio for frequencies and times.
 * @param points `[share of travel 0..1, value]`, by rising travel
 * @param bounds of the parameter: no taper leaves them
 * @returns empty for fewer than two places, or when the values turn round or never move
 */
export function fitTapers(
  points: readonly Point[],
  unit: PhysicalUnit,
  [lo, hi]: readonly [number, number] = [-Infinity, Infinity],
): FittedTaper[] {
  if (points.length < 2 || !isMonotone(points)) return [];
  if (points.length === 2 && standsStill(points)) return [];
  const within = (value: number): number => tidy(Math.min(hi, Math.max(lo, value)));
  const [a, b] = line(points);
  const linear: Taper = { kind: 'linear', lo: within(a), hi: within(a + b), unit };
  const found: Taper[] = [linear];
  const byRatio = unit === 'Hz' || unit === 's';
  if (points.every(([, v]) => v > 0)) {
    const [la, lb] = line(points.map(([x, v]): Point => [x, Math.log(v)]));
    const [low, high] = [within(Math.exp(la)), within(Math.exp(la + lb))];
    if (low > 0 && high > 0) found.push({ kind: 'exponential', lo: low, hi: high, unit });
  }
  const fitted = found.map((taper) => missed(taper, points));
  if (byRatio) fitted.reverse();
  fitted.sort((p, q) => Number(p.worst > GOOD) - Number(q.worst > GOOD));
  if (points.length === 2) return fitted;
  const [best] = [...fitted].sort((p, q) => p.worst - q.worst);
  const table = missed(
    {
      kind: 'table',
      points: withEnds(points, best!.taper, within),
      unit,
      ...(byRatio ? { by: 'ratio' as const } : {}),
    },
    points,
  );
  if (standsStill(points)) return [table];
  return fitted[0]!.worst <= GOOD ? [...fitted, table] : [table, ...fitted];
}

function missed(taper: Taper, points: readonly Point[]): FittedTaper {
  const errors = points.map(([x, v]) => taperValue(taper, x) - v);
  const values = points.map(([, v]) => v);
  const oneSign = values.every((v) => v > 0) || values.every((v) => v < 0);
  const range = Math.max(...values) - Math.min(...values) || 1;
  const shares = errors.map((e, i) => Math.abs(e) / (oneSign ? Math.abs(values[i]!) : range));
  return { taper, errors, worst: Math.max(...shares) };
}

/** Places where the ends of travel are not among them are led on along a curve, without turning round. */
function withEnds(
  points: readonly Point[],
  along: Taper,
  within: (value: number) => number,
): [number, number][] {
  const rising = points.at(-1)![1] >= points[0]![1];
  const table = points.map(([x, v]): [number, number] => [x, v]);
  const [first, last] = [table[0]!, table.at(-1)!];
  const beyond = (value: number, end: number, down: boolean): number =>
    within(down ? Math.min(value, end) : Math.max(value, end));
  if (first[0] > 0) table.unshift([0, beyond(taperValue(along, 0), first[1], rising)]);
  if (last[0] < 1) table.push([1, beyond(taperValue(along, 1), last[1], !rising)]);
  return table;
}

/** Intercept and slope of the straight line with the least squared error. */
function line(points: readonly Point[]): [number, number] {
  const n = points.length;
  const mx = points.reduce((sum, [x]) => sum + x, 0) / n;
  const my = points.reduce((sum, [, y]) => sum + y, 0) / n;
  const xx = points.reduce((sum, [x]) => sum + (x - mx) ** 2, 0);
  const xy = points.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  const slope = xy / xx;
  return [my - slope * mx, slope];
}

function isMonotone(points: readonly Point[]): boolean {
  const steps = points.slice(1).map(([, v], i) => v - points[i]![1]);
  const apart = points.slice(1).every(([x], i) => x > points[i]![0]);
  const moves = steps.some((s) => s !== 0);
  return apart && moves && (steps.every((s) => s >= 0) || steps.every((s) => s <= 0));
}

const standsStill = (points: readonly Point[]): boolean =>
  points.slice(1).some(([, v], i) => v === points[i]![1]);

/** Six significant figures: more than anybody measures, and files stay readable. */
const tidy = (value: number): number => Number(value.toPrecision(6));
