import { cosTurns, exp2, log2 } from './portable';

/**
 * A filter as its analogue prototype has it, around its cutoff 1. Its `damping` falls from `free`, with no resonance, to
 * 0, where it whistles.
 */
export interface Prototype {
  free: number;
  /** Coefficients of 1/|H|^2 by powers of the square of the frequency, lowest first. */
  power(damping: number): number[];
}

/** Two poles: 1/H = s^2 + damping s + 1. */
export const twoPole: Prototype = {
  free: Math.SQRT2,
  power: (damping) => [1, damping * damping - 2, 1],
};

/** Three: 1/H = (s + 1)(s^2 + damping s + 1). */
export const threePole: Prototype = {
  free: 1,
  power(damping) {
    const middle = damping * damping - 1;
    return [1, middle, middle, 1];
  },
};

/** Loop gains at which the ladders whistle. */
export const LADDER_WHISTLE = 4;
export const DIODE_WHISTLE = 17;

/** Poles of four coupled stages as multiples of the frequency at which they turn by half a cycle. */
export const diodePoles = [1, 3, 5, 7].map((j) => Math.SQRT2 * (1 - cosTurns(j / 16)));

/** Four real poles in a loop that whistles at a gain: 1/H = (1 + s/p1) ... (1 + s/p4) + whistle (1 - damping). */
function loop(poles: readonly number[], whistle: number): Prototype {
  // Of the polynomial 1 + c1 s + ... + c4 s^4 that the poles make.
  const [, c1, c2, c3, c4] = poles.reduce<number[]>(
    (c, p) => [...c, 0].map((v, i) => v + (i > 0 ? c[i - 1]! / p : 0)),
    [1],
  ) as [number, number, number, number, number];
  return {
    free: 1,
    power(damping) {
      const real = 1 + whistle * (1 - damping);
      return [
        real * real,
        c1 * c1 - 2 * real * c2,
        c2 * c2 + 2 * real * c4 - 2 * c1 * c3,
        c3 * c3 - 2 * c2 * c4,
        c4 * c4,
      ];
    },
  };
}

export const ladder = loop([1, 1, 1, 1], LADDER_WHISTLE);
export const diodeLadder = loop(diodePoles, DIODE_WHISTLE);

/** Value of a polynomial, and its slope. */
export function valueOf(c: readonly number[], x: number): number {
  let sum = 0;
  for (let i = c.length - 1; i >= 0; i--) sum = sum * x + c[i]!;
  return sum;
}
export function slopeOf(c: readonly number[], x: number): number {
  let sum = 0;
  for (let i = c.length - 1; i > 0; i--) sum = sum * x + i * c[i]!;
  return sum;
}

/** Square of the frequency, in cutoffs, at which a prototype's resonance peaks; 0 when it has no peak. */
export function peakSquared(power: readonly number[]): number {
  if (power[1]! >= 0) return 0;
  let [below, above] = [0, 1.5];
  for (let i = 0; i < 50; i++) {
    const middle = (below + above) / 2;
    if (slopeOf(power, middle) < 0) below = middle;
    else above = middle;
  }
  return (below + above) / 2;
}

const STEEP = log2(0.04 / Math.SQRT2);
/** Damping 1/Q of the two-pole filters: Q 0.7071 with no resonance, 25 at full. */
export const twoPoleDamping = (resonance: number): number => Math.SQRT2 * exp2(STEEP * resonance);

/** Damping of the three-pole filter's resonant pair: 1, a Butterworth, with no resonance; below 0 it whistles. */
export const threePoleDamping = (resonance: number): number => 1 - 1.1 * resonance;

/** Loop gain of the ladder: 4 whistles. */
export const ladderLoopGain = (resonance: number): number => 4.4 * resonance;

const DIODE_EARLY = 0.8;
/** Loop gain of the diode ladder: up to the whistle at 0.8 of its travel, then on more slowly, to a tenth more. */
export const diodeLoopGain = (resonance: number): number =>
  resonance < DIODE_EARLY
    ? (DIODE_WHISTLE * resonance) / DIODE_EARLY
    : DIODE_WHISTLE * (1 + 0.5 * (resonance - DIODE_EARLY));
