import { exp2, POWERS } from '../theory/portable';

/** 2 to the power of x by a table of 2048 points an octave, joined by lines: within 2e-8 of its value, 0.00003 cents. */
const POINTS = 2048;
const TABLE = new Float64Array(POINTS + 2);
for (let i = 0; i <= POINTS + 1; i++) TABLE[i] = exp2(i / POINTS);

/** Beyond 1000 either way it stays where it is there; no number gives no number. */
export function exp2Quick(exponent: number): number {
  const x = exponent > 1000 ? 1000 : exponent < -1000 ? -1000 : exponent;
  const whole = Math.floor(x);
  const at = (x - whole) * POINTS;
  const i = at | 0;
  const a = TABLE[i]!;
  return (a + (at - i) * (TABLE[i + 1]! - a)) * POWERS[1022 + whole]!;
}
