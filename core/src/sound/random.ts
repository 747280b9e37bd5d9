const STEP = 0x6d2b79f5;

/**
 * Seeded generator, uniform in 0 (included) to 1 (excluded).
 * Source: mulberry32, T. Ettinger 2017, public domain; period 2^32.
 */
export class Random {
  /** The generator's whole state: who copies it goes on with the same numbers. */
  readonly state = new Uint32Array(1);

  constructor(seed: number) {
    this.state[0] = seed;
  }

  /** Goes to the number that is so many behind those of a seed. */
  skipFrom(seed: number, count: number): void {
    this.state[0] = seed + Math.imul(count, STEP);
  }

  next(): number {
    const state = (this.state[0]! + STEP) >>> 0;
    this.state[0] = state;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }
}

/** A seed of its own for each name, so that one module's noise does not depend on how many others there are. */
export function seedFor(name: string, seed: number): number {
  // FNV-1a, 32 bit.
  let hash = 0x811c9dc5 ^ seed;
  for (let i = 0; i < name.length; i++) {
    hash = Math.imul(hash ^ name.charCodeAt(i), 0x01000193);
  }
  return hash >>> 0;
}
