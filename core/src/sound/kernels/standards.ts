import { RAIL } from '../../catalogue/rail';
import { kernelOf } from '../kernel';
import { exp2, log2 } from '../../theory/portable';

/** Octaves below C4 that a voltage of (nearly) nothing stands for. */
const LOWEST = -10;

/** Volts an octave into hertz a volt: equal intervals become equal ratios. */
export const toHzVolt = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const base = context.number('base');
    const S = new Float64Array([NaN, 0, NaN]);
    return { state: { S }, input, out, base, S };
  },
  ({ input, out, base, S }, from, to) => {
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      if (x !== S[0] || base.value !== S[2]) {
        S[0] = x;
        S[2] = base.value;
        S[1] = Math.min(RAIL, base.value * exp2(x));
      }
      out[i] = S[1]!;
    }
  },
);

/** Hertz a volt into volts an octave; what is not above 0 V is as low as it gets. */
export const fromHzVolt = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const base = context.number('base');
    const S = new Float64Array([NaN, 0, NaN]);
    return { state: { S }, input, out, base, S };
  },
  ({ input, out, base, S }, from, to) => {
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      if (x !== S[0] || base.value !== S[2]) {
        S[0] = x;
        S[2] = base.value;
        S[1] = x > 0 ? Math.max(LOWEST, log2(x / base.value)) : LOWEST;
      }
      out[i] = S[1]!;
    }
  },
);
