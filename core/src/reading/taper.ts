import type { ContinuousControl, Scale, Taper, PhysicalUnit } from '../instrument/schema';
import {
  byRatio,
  interpolateLinear,
  interpolateMonotone,
  invertMonotone,
  type Join,
  shareBetween,
} from './interpolate';

/** Physical value, in the taper's unit, at a share of travel 0..1. */
export function taperValue(taper: Taper, position: number): number {
  const p = Math.min(1, Math.max(0, position));
  switch (taper.kind) {
    case 'linear':
      return taper.lo + p * (taper.hi - taper.lo);
    case 'exponential':
      return taper.lo * (taper.hi / taper.lo) ** p;
    case 'table':
      return joinOf(taper)(taper.points, p);
  }
}

const ratioLinear = byRatio(interpolateLinear);
const ratioMonotone = byRatio(interpolateMonotone);

/** How the points of a table are joined. */
function joinOf({ by, straight }: Extract<Taper, { kind: 'table' }>): Join {
  if (by === 'ratio') return straight ? ratioLinear : ratioMonotone;
  return straight ? interpolateLinear : interpolateMonotone;
}

/** Lowest and highest physical value of a taper. */
export function taperBounds(taper: Taper): [number, number] {
  const ends = [taperValue(taper, 0), taperValue(taper, 1)];
  return [Math.min(...ends), Math.max(...ends)];
}

/** Share of travel 0..1 that gives a physical value; undefined when it lies outside the taper. */
export function taperPosition(taper: Taper, value: number): number | undefined {
  const [lo, hi] = taperBounds(taper);
  const slack = 1e-9 * Math.max(1, Math.abs(lo), Math.abs(hi));
  if (value < lo - slack || value > hi + slack) return undefined;
  switch (taper.kind) {
    case 'linear':
      return clamp((value - taper.lo) / (taper.hi - taper.lo));
    case 'exponential':
      return clamp(Math.log(value / taper.lo) / Math.log(taper.hi / taper.lo));
    case 'table':
      return invertMonotone((p) => taperValue(taper, p), value);
  }
}

/** Number that a printed scale shows at a share of travel. */
export const scaleReading = (scale: Scale, position: number): number =>
  (scale.by === 'ratio' ? ratioLinear : interpolateLinear)(
    scale.marks.map((m) => [m.at, m.value] as const),
    position,
  );

/** Share of travel at a printed number; undefined outside the scale. */
export function scalePosition(scale: Scale, reading: number): number | undefined {
  const [lo, hi] = scaleBounds(scale);
  if (reading < lo - 1e-9 || reading > hi + 1e-9) return undefined;
  const byValue = scale.marks.map((m) => [m.value, m.at] as const).sort((a, b) => a[0] - b[0]);
  if (scale.by !== 'ratio') return interpolateLinear(byValue, reading);
  const above = Math.max(
    1,
    byValue.findIndex(([value]) => value >= reading),
  );
  const [from, to] = [byValue[above - 1]!, byValue[above]!];
  return from[1] + shareBetween(from[0], to[0], reading) * (to[1] - from[1]);
}

/** Lowest and highest printed number. */
export function scaleBounds(scale: Scale): [number, number] {
  const values = scale.marks.map((m) => m.value);
  return [Math.min(...values), Math.max(...values)];
}

const clamp = (p: number): number => Math.min(1, Math.max(0, p));

/** Physical side of one binding of a control, in the unit that people speak of. */
export interface Meaning {
  unit: PhysicalUnit;
  /** Physical value at a share of travel. */
  value(position: number): number;
  /** Share of travel at a physical value; undefined when it is out of reach. */
  position(value: number): number | undefined;
  bounds: [number, number];
}

/** What each binding of a control means, in the order of its bindings. */
export const meanings = (control: ContinuousControl): Meaning[] =>
  control.bindings.map(({ taper, reads }) => {
    const factor = reads?.factor ?? 1;
    const bounds = taperBounds(taper).map((v) => v * factor);
    return {
      unit: reads?.unit ?? taper.unit,
      value: (position) => taperValue(taper, position) * factor,
      position: (value) => taperPosition(taper, value / factor),
      bounds: [Math.min(...bounds), Math.max(...bounds)],
    };
  });
