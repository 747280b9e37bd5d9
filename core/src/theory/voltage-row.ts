import { nearestRowCode } from './pitch';

/** Ranges that rows of voltages come with, in V. */
export const rowRanges = [1, 2, 5, 8, 10] as const;

/** Volts that stand for an interval behind a path of linear gain: an octave is one volt where the pitch goes in. */
export const rowVolts = (semitones: number, gain = 1): number => semitones / 12 / gain;

/** Gain that makes up for what a path loses: its inverse. @param gain above 0 */
export const repairGain = (gain: number): number => 1 / gain;

/** A range of a row for a figure: the largest error of its steps, in cents, and whether it reaches that far. */
export interface RangeChoice {
  range: number;
  worstCents: number;
  reaches: boolean;
}

/**
 * The ranges of a row, best first for a wanted figure: those that reach it before those that do not, then by the
 * largest error of a step.
 * @param figure semitones above the row's bottom
 * @param steps highest code of the row
 */
export function bestRanges(
  figure: readonly number[],
  steps: number,
  ranges: readonly number[] = rowRanges,
): RangeChoice[] {
  const highest = Math.max(0, ...figure);
  return ranges
    .map((range) => ({
      range,
      worstCents: Math.max(
        0,
        ...figure.map((s) => Math.abs(nearestRowCode(s, range, steps).errorCents)),
      ),
      reaches: highest <= 12 * range + 1e-9,
    }))
    .sort((a, b) => Number(b.reaches) - Number(a.reaches) || a.worstCents - b.worstCents);
}
