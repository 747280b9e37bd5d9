import { fallFactor } from '../../theory/envelope';
import { kernelOf } from '../kernel';
import { Derived } from './envelope';

/** Holds the peaks of both sides under a ceiling. */
export const limiter = kernelOf(
  (context) => {
    const input = context.input('in');
    const inLeft = context.input('left');
    const inRight = context.input('right');
    const left = context.output('left', 0);
    const right = context.output('right', 0);
    const out = context.output('out', 0);
    const ceiling = context.number('ceiling');
    const back = new Derived(context.number('release'), (s) => fallFactor(s, context.sampleRate));
    /** Gain taken away. */
    const S = new Float64Array(1);
    return { state: { S }, input, inLeft, inRight, left, right, out, ceiling, back, S };
  },
  ({ input, inLeft, inRight, left, right, out, ceiling, back, S }, from, to) => {
    const factor = back.update();
    let taken = S[0]!;
    for (let i = from; i < to; i++) {
      const l = input[i]! + inLeft[i]!;
      const r = input[i]! + inRight[i]!;
      const top = ceiling.was + ceiling.slope * i;
      const peak = Math.max(l < 0 ? -l : l, r < 0 ? -r : r);
      taken = taken < 1e-9 ? 0 : taken * factor;
      if (peak * (1 - taken) > top) taken = 1 - top / peak;
      left[i] = l * (1 - taken);
      right[i] = r * (1 - taken);
      out[i] = (left[i]! + right[i]!) / 2;
    }
    S[0] = taken;
  },
);
