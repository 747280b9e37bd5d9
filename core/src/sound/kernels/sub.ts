import { addStep, newRing, REACH } from '../band-limit';
import { kernelOf } from '../kernel';

const PEAK = 5;

/** A square that turns over with every, or every second, cycle of the oscillator whose sync comes in. */
export const sub = kernelOf(
  (context) => {
    const sync = context.input('sync');
    const connected = context.connected('sync');
    const out = context.output('out');
    const every = context.choice('octave') === 'two' ? 2 : 1;
    const ring = newRing();
    /** Side, cycles since it turned over, sample number. */
    const S = new Float64Array([1, 0, 0]);
    return { state: { S, ring }, sync, connected, out, every, ring, S };
  },
  ({ sync, connected, out, every, ring, S }, from, to) => {
    const line = ring;
    const y = out;
    const events = sync;
    let side = S[0]!;
    let count = S[1]!;
    let now = S[2]! | 0;
    for (let i = from; i < to; i++) {
      now = (now + 1) | 0;
      const ago = connected ? events[i]! : -1;
      if (ago >= 0 && ago <= 1) {
        count++;
        if (count >= every) {
          count = 0;
          side = -side;
          addStep(line, now, ago, 2 * side);
        }
      }
      const at = now & 63;
      line[at] = line[at]! + side;
      const ready = (now - REACH) & 63;
      y[i] = connected ? PEAK * line[ready]! : 0;
      line[ready] = 0;
    }
    S[0] = side;
    S[1] = count;
    S[2] = now;
  },
);
