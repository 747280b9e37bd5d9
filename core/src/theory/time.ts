/** Tempo arithmetic. Tempi in quarter notes a minute, times in seconds, rates in Hz. */

/**
 * Length of a note value in seconds.
 * @param bpm quarter notes a minute, above 0
 * @param division 1 whole, 4 quarter, 8 eighth ...
 * @param factor 1.5 dotted, 2/3 triplet, or any ratio
 */
export const noteLength = (bpm: number, division: number, factor = 1): number =>
  (60 / bpm) * (4 / division) * factor;

/** Seconds that `bars` bars of `beats` quarter notes take at `bpm`: the period of a cycle tied to them. */
export const barsToSeconds = (bars: number, beats: number, bpm: number): number =>
  (bars * beats * 60) / bpm;

/** Start of the second of a pair of steps, in seconds after the first; swing in per cent, 50..75. */
export const swingOffset = (stepSeconds: number, swing: number): number =>
  (2 * stepSeconds * swing) / 100;

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b));

/** Bars after which a hit every `every` steps meets the same place of a bar of `steps` again. */
export const barsUntilMeeting = (every: number, steps: number): number => every / gcd(every, steps);
