import { kernelOf } from '../kernel';
import { exp2 } from '../../theory/portable';
import { exp2Quick } from '../quick';

/** Four channels added. */
export const mixer = kernelOf(
  (context) => {
    const out = context.output('out');
    const channels = [1, 2, 3, 4]
      .filter((n) => context.connected(`in${n}`))
      .map((n) => ({ input: context.input(`in${n}`), gain: context.number(`gain${n}`) }));
    return { state: {}, out, channels };
  },
  ({ out, channels }, from, to) => {
    const y = out;
    const [first, second] = channels;
    if (
      second !== undefined &&
      channels.length === 2 &&
      first!.gain.slope === 0 &&
      second.gain.slope === 0
    ) {
      const a = first!.input;
      const b = second.input;
      const ga = first!.gain.was;
      const gb = second.gain.was;
      if (ga + gb <= 1) {
        // Two signals within the supply, shared out, stay within it.
        for (let i = from; i < to; i++) y[i] = ga * a[i]! + gb * b[i]!;
        return;
      }
      for (let i = from; i < to; i++) {
        const volts = ga * a[i]! + gb * b[i]!;
        y[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
      return;
    }
    y.fill(0, from, to);
    for (let c = 0; c < channels.length; c++) {
      const x = channels[c]!.input;
      const { was, slope } = channels[c]!.gain;
      if (slope === 0) {
        if (was !== 0) for (let i = from; i < to; i++) y[i] = y[i]! + was * x[i]!;
      } else for (let i = from; i < to; i++) y[i] = y[i]! + (was + slope * i) * x[i]!;
    }
    for (let i = from; i < to; i++) {
      const volts = y[i]!;
      if (volts > 20) y[i] = 20;
      else if (volts < -20) y[i] = -20;
    }
  },
);

/** in times gain. */
export const attenuator = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const gain = context.number('gain');
    return { state: {}, input, out, gain };
  },
  ({ input, out, gain }, from, to) => {
    const { was, slope } = gain;
    const x = input;
    const y = out;
    if (slope === 0 && was <= 1 && was >= -1) {
      let i = from;
      // Four at a time: read first, then written, they need less looking after.
      for (; i + 3 < to; i += 4) {
        const a = x[i]!;
        const b = x[i + 1]!;
        const c = x[i + 2]!;
        const d = x[i + 3]!;
        y[i] = was * a;
        y[i + 1] = was * b;
        y[i + 2] = was * c;
        y[i + 3] = was * d;
      }
      for (; i < to; i++) y[i] = was * x[i]!;
      return;
    }
    for (let i = from; i < to; i++) {
      const volts = (was + slope * i) * x[i]!;
      y[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
  },
);

/** in turned over. */
export const inverter = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    return { state: {}, input, out };
  },
  ({ input, out }, from, to) => {
    for (let i = from; i < to; i++) out[i] = -input[i]!;
  },
);

/** in and a steady voltage. */
export const offset = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const volts = context.number('volts');
    return { state: {}, input, out, volts };
  },
  ({ input, out, volts }, from, to) => {
    const { was, slope } = volts;
    for (let i = from; i < to; i++) {
      const volts = input[i]! + was + slope * i;
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
  },
);

/** The same, four times. */
export const multiple = kernelOf(
  (context) => {
    const input = context.input('in');
    const outs = [1, 2, 3, 4].map((n) => context.output(`out${n}`));
    return { state: {}, input, outs };
  },
  ({ input, outs }, from, to) => {
    for (let o = 0; o < 4; o++) {
      const out = outs[o]!;
      for (let i = from; i < to; i++) out[i] = input[i]!;
    }
  },
);

/** One of four. */
export const selector = kernelOf(
  (context) => {
    const input = context.input(context.choice('choice'));
    const out = context.output('out');
    return { state: {}, input, out };
  },
  ({ input, out }, from, to) => {
    for (let i = from; i < to; i++) out[i] = input[i]!;
  },
);

const OCTAVES = 9.965784284662087; // log2 of 1000: the exponential curve spans 60 dB.

/** in times cv over 5 V, never inverted nor more than once; velocity takes away up to its depth. */
export const amplifier = kernelOf(
  (context) => {
    const input = context.input('in');
    const cv = context.input('cv');
    const velocity = context.input('velocity');
    const depth = context.number('velocity');
    const exponential = context.choice('curve') === 'exponential';
    const out = context.output('out');
    const whole = 1 / (exp2(OCTAVES) - 1);
    return { state: {}, input, cv, velocity, depth, exponential, out, whole };
  },
  ({ input, cv, velocity, depth, exponential, out, whole }, from, to) => {
    const taken = depth.value / 100;
    const x = input;
    const control = cv;
    const y = out;
    if (exponential) {
      for (let i = from; i < to; i++) {
        const gain = control[i]! * 0.2;
        const held = gain > 0 ? (gain < 1 ? gain : 1) : 0;
        y[i] = x[i]! * ((exp2Quick(OCTAVES * held) - 1) * whole);
      }
    } else {
      for (let i = from; i < to; i++) {
        const gain = control[i]! * 0.2;
        y[i] = x[i]! * (gain > 0 ? (gain < 1 ? gain : 1) : 0);
      }
    }
    if (taken === 0) return;
    for (let i = from; i < to; i++) {
      const v = velocity[i]! < 5 ? (velocity[i]! > 0 ? velocity[i]! : 0) : 5;
      y[i] = y[i]! * (1 - taken + (taken * v) / 5);
    }
  },
);
