import { pulseHarmonic } from './level';

/** Waves whose partials are known in closed form. */
export type PlainWave = 'saw' | 'pulse' | 'triangle' | 'sine';

export const isPlainWave = (wave: unknown): wave is PlainWave =>
  ['saw', 'pulse', 'triangle', 'sine'].includes(String(wave));

/**
 * Amplitude of a partial of a wave that runs from -1 to 1: its Fourier coefficient, never negative.
 * @param n 1 for the fundamental
 * @param duty share of the cycle that a pulse is up, 0..1
 */
export function partialOf(wave: PlainWave, n: number, duty = 0.5): number {
  switch (wave) {
    case 'saw':
      return 2 / (Math.PI * n);
    case 'pulse':
      return (4 / Math.PI) * pulseHarmonic(n, duty);
    case 'triangle':
      return n % 2 === 1 ? 8 / (Math.PI * n) ** 2 : 0;
    case 'sine':
      return n === 1 ? 1 : 0;
  }
}
