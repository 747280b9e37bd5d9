import { addStep, newRing, REACH } from '../band-limit';
import type { Kernel, KernelContext } from '../kernel';

const PEAK = 5;

/** A square that turns over with every, or every second, cycle of the oscillator whose sync comes in. */
export function sub(context: KernelContext): Kernel {
  const sync = context.input('sync');
  const connected = context.connected('sync');
  const out = context.output('out');
  const every = context.choice('octave') === 'two' ? 2 : 1;
  const ring = newRing();
  /** Side, cycles since it turned over, sample number. */
  const S = new Float64Array([1, 0, 0]);
  return {
    state: { S, ring },
    process(from, to) {
      for (let i = from; i < to; i++) {
        const now = ++S[2]!;
        const ago = connected ? sync[i]! : -1;
        if (ago >= 0 && ago <= 1 && ++S[1]! >= every) {
          S[1] = 0;
          S[0] = -S[0]!;
          addStep(ring, now, ago, 2 * S[0]);
        }
        ring[now & 63] = ring[now & 63]! + S[0]!;
        const ready = (now - REACH) & 63;
        out[i] = connected ? PEAK * ring[ready]! : 0;
        ring[ready] = 0;
      }
    },
  };
}
