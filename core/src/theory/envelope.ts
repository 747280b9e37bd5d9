import { exp2, log2 } from './portable';

/** How far above full level the attack aims, as a share of full level. */
export const ATTACK_OVERSHOOT = 0.3;
/** A decay or release is over when this share of its way is left. */
export const SETTLED = 0.01;

const ATTACK_OCTAVES = log2(ATTACK_OVERSHOOT / (1 + ATTACK_OVERSHOOT));
const FALL_OCTAVES = log2(SETTLED);

/** Factor a sample by which an attack's distance to its aim shrinks, so that it meets full level after `seconds`. */
export const attackFactor = (seconds: number, sampleRate: number): number =>
  exp2(ATTACK_OCTAVES / Math.max(1, seconds * sampleRate));

/** The same for a decay or release, which has 1 % of its way left after `seconds`. */
export const fallFactor = (seconds: number, sampleRate: number): number =>
  exp2(FALL_OCTAVES / Math.max(1, seconds * sampleRate));
