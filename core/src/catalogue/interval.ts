import { RAIL } from './rail';

/** Lowest and highest value a signal takes, in V. */
export type Interval = readonly [number, number];

export const AUDIO: Interval = [-5, 5];
/** As far as any module's supply goes. */
export const SUPPLY: Interval = [-RAIL, RAIL];
export const ZERO: Interval = [0, 0];

export const isQuiet = ([lo, hi]: Interval): boolean => lo === 0 && hi === 0;

/** Interval of a sum. */
export const addIntervals = (a: Interval, b: Interval): Interval => [a[0] + b[0], a[1] + b[1]];

/** Interval of a signal times a gain. */
export const scaled = ([lo, hi]: Interval, gain: number): Interval =>
  // `|| 0` keeps -0 out: a signal times nothing is nothing.
  gain >= 0 ? [lo * gain || 0, hi * gain || 0] : [hi * gain || 0, lo * gain || 0];

/** What holds both. */
export const hull = (a: Interval, b: Interval): Interval => [
  Math.min(a[0], b[0]),
  Math.max(a[1], b[1]),
];
