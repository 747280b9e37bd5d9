import { fromDecibels } from '../../theory/level';
import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

/** Ceiling of the curve in V. */
const CEILING = 8;

const curve = (u: number): number => u / Math.sqrt(1 + u * u);
const area = (u: number): number => Math.sqrt(1 + u * u);

/**
 * Overload `y = 8 V * u / sqrt(1 + u^2)`, u = gain * x / 8 V, computed as the mean of the curve between two samples, which
 * keeps most of the folded partials out; late by half a sample. The gain is made up again by its square root.
 * Source: J. Parker, V. Zavalishin, E. Le Bivic, Reducing the Aliasing of Nonlinear Waveshaping, DAFx 2016.
 */
export function drive(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const gain = fromDecibels(numberOf(context, 'gain'));
  const makeUp = CEILING / Math.sqrt(gain);
  let last = 0;
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const u = (gain * input[i]!) / CEILING;
        const step = u - last;
        out[i] =
          makeUp * (Math.abs(step) < 1e-5 ? curve((u + last) / 2) : (area(u) - area(last)) / step);
        last = u;
      }
    },
  };
}
