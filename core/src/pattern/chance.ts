/**
 * A number 0..1 (1 excluded) that depends on nothing but what it is asked for: the same place of the same take always
 * draws the same. The finalizer is that of MurmurHash3 (Appleby, public domain).
 * @param seed of the take
 * @param track and step where it is drawn, whole numbers from 0
 */
export function chanceAt(seed: number, track: number, step: number): number {
  let h = (seed | 0) ^ Math.imul(track + 1, 0x9e3779b1) ^ Math.imul(step + 1, 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}
