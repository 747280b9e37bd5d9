import { chanceAt } from './chance';

/**
 * Ways through the steps. There-and-back plays both ends twice as it turns, pendulum once.
 */
export const directions = ['forward', 'back', 'there-and-back', 'pendulum', 'random'] as const;
export type Direction = (typeof directions)[number];

/** Steps played until a way through so many steps begins again. */
export function cycleSteps(direction: Direction, length: number): number {
  if (direction === 'there-and-back') return 2 * length;
  return direction === 'pendulum' && length > 1 ? 2 * length - 2 : length;
}

/**
 * Which step is played as the k-th, both from 0.
 * @param length steps of the track, at least 1
 * @param offset step that counts as the first, from 0
 * @param seed and track decide what random draws
 */
export function stepAt(
  k: number,
  length: number,
  direction: Direction,
  offset = 0,
  seed = 1,
  track = 0,
): number {
  return (along(k, length, direction, seed, track) + offset) % length;
}

function along(
  k: number,
  length: number,
  direction: Direction,
  seed: number,
  track: number,
): number {
  if (direction === 'random') return Math.floor(chanceAt(seed ^ 0x51ed, track, k) * length);
  const at = k % cycleSteps(direction, length);
  if (direction === 'back') return length - 1 - at;
  if (at < length) return at;
  return direction === 'pendulum' ? 2 * length - 2 - at : 2 * length - 1 - at;
}
