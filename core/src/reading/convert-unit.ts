import type { PhysicalUnit } from '../instrument/schema';

const CENTS: Partial<Record<PhysicalUnit, number>> = { cents: 1, st: 100, oct: 1200 };
const SHARES: Partial<Record<PhysicalUnit, number>> = { '%': 0.01, x: 1, '': 1 };

/** How a number in one unit becomes one in another. */
export interface Conversion {
  to(value: number): number;
  /** Equal steps do not stay equal. */
  curved: boolean;
}

/** How numbers of one unit become those of another. @returns undefined where they do not measure the same */
export function conversion(from: PhysicalUnit, to: PhysicalUnit): Conversion | undefined {
  if (from === to) return { to: (value) => value, curved: false };
  for (const kinds of [CENTS, SHARES]) {
    const [a, b] = [kinds[from], kinds[to]];
    if (a !== undefined && b !== undefined)
      return { to: (value) => (value * a) / b, curved: false };
  }
  if (from === 'dB' && to === 'x') return { to: (value) => 10 ** (value / 20), curved: true };
  if ((from === 's' && to === 'Hz') || (from === 'Hz' && to === 's'))
    return { to: (value) => 1 / value, curved: true };
  return undefined;
}
