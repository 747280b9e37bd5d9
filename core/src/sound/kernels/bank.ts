import { BANK_HZ } from '../../catalogue/filters';
import { fromDecibelsPortable } from '../../theory/portable';
import { kernelOf, tiny } from '../kernel';
import { tanTurns } from '../../theory/portable';

const DAMPING = 1 / 1.414;

/** Fixed bank of band-passes an octave apart. */
export const bank = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const bands = BANK_HZ.filter((hz) => hz < 0.45 * context.sampleRate);
    const gains = Float64Array.from(bands, (hz) => tanTurns(hz / context.sampleRate / 2));
    const levels = bands.map((_, b) => context.number(`band${b + 1}`));
    const S = new Float64Array(2 * bands.length);
    return { state: { S }, input, out, gains, levels, S };
  },
  ({ input, out, gains, levels, S }, from, to) => {
    out.fill(0, from, to);
    for (let b = 0; b < gains.length; b++) {
      const g = gains[b]!;
      const { was, slope } = levels[b]!;
      const whole = 1 / (1 + g * (DAMPING + g));
      let s1 = S[2 * b]!;
      let s2 = S[2 * b + 1]!;
      for (let i = from; i < to; i++) {
        const high = (input[i]! - (DAMPING + g) * s1 - s2) * whole;
        const band = g * high + s1;
        s1 = g * high + band;
        s2 = 2 * g * band + s2;
        out[i] = out[i]! + (was + slope * i) * DAMPING * band;
      }
      S[2 * b] = tiny(s1);
      S[2 * b + 1] = tiny(s2);
    }
    for (let i = from; i < to; i++) {
      const volts = out[i]!;
      if (volts > 20) out[i] = 20;
      else if (volts < -20) out[i] = -20;
    }
  },
);

/** One-pole tilt about a pivot. */
export const tilt = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const pivot = context.number('pivot');
    const amount = context.number('tilt');
    const S = new Float64Array(1);
    return { state: { S }, context, input, out, pivot, amount, S };
  },
  ({ context, input, out, pivot, amount, S }, from, to) => {
    const g = tanTurns(Math.min(pivot.value / context.sampleRate, 0.45) / 2);
    const a = g / (1 + g);
    const up = fromDecibelsPortable(amount.value);
    const upBefore = fromDecibelsPortable(amount.was);
    let s = S[0]!;
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      const low = s + a * (x - s);
      s = 2 * low - s;
      const gain = upBefore + ((up - upBefore) * i) / 64;
      const volts = low / gain + gain * (x - low);
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
    S[0] = tiny(s);
  },
);
