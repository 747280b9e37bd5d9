import type { TimedNote } from './timed';
import { attackFactor } from '../theory/envelope';

/** Stretches of time, in seconds, during which at least one key is held. */
export function gates(notes: readonly TimedNote[]): [number, number][] {
  const open: [number, number][] = [];
  for (const n of [...notes].sort((a, b) => a.start - b.start)) {
    const last = open.at(-1);
    const end = n.start + n.duration;
    if (last && n.start < last[1]) last[1] = Math.max(last[1], end);
    else open.push([n.start, end]);
  }
  return open;
}

/** Seconds that the longest gate stays open; half a second when there are no notes. */
export const longestGate = (notes: readonly TimedNote[]): number =>
  notes.length > 0 ? Math.max(...gates(notes).map(([start, end]) => end - start)) : 0.5;

/** Level, 0..1, that an attack of so many seconds reaches while a key is held. */
export const attackReached = (attack: number, held: number): number =>
  Math.min(1, 1.3 * (1 - attackFactor(attack, 1e6) ** (held * 1e6)));
