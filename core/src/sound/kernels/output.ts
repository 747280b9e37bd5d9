import { kernelOf, tiny } from '../kernel';

/** Corner in Hz of the capacitor before the level and the sockets. */
const CORNER_HZ = 3;

/** The output sockets: without direct current, and behind their level. */
export const output = kernelOf(
  (context) => ({
    // Charges of the left and the right side: fields that change would each be made anew for the collector.
    state: { S: new Float64Array(2) },
    input: context.input('in'),
    inLeft: context.input('left'),
    inRight: context.input('right'),
    left: context.output('left', 0),
    right: context.output('right', 0),
    out: context.output('out', 0),
    level: context.number('level'),
    // All three sockets are one buffer then.
    mono: !context.connected('left') && !context.connected('right'),
    // Step of a one-pole that follows: 1 - exp(-w) to the second order, w far below 1.
    step: stepOf((2 * Math.PI * CORNER_HZ) / context.sampleRate),
  }),
  ({ state: { S }, input, inLeft, inRight, left, right, out, level, mono, step }, from, to) => {
    const { was, slope } = level;
    let charge = S[0]!;
    if (mono) {
      for (let i = from; i < to; i++) {
        const moving = input[i]! - charge;
        charge += step * moving;
        const volts = (was + slope * i) * moving;
        out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
      S[0] = S[1] = tiny(charge);
      return;
    }
    let other = S[1]!;
    for (let i = from; i < to; i++) {
      const movingLeft = input[i]! + inLeft[i]! - charge;
      const movingRight = input[i]! + inRight[i]! - other;
      charge += step * movingLeft;
      other += step * movingRight;
      const gain = was + slope * i;
      const l = gain * movingLeft;
      const r = gain * movingRight;
      const a = l > 20 ? 20 : l < -20 ? -20 : l;
      const b = r > 20 ? 20 : r < -20 ? -20 : r;
      left[i] = a;
      right[i] = b;
      out[i] = a === b ? a : (a + b) / 2;
    }
    S[0] = tiny(charge);
    S[1] = tiny(other);
  },
);

const stepOf = (w: number): number => w - (w * w) / 2;
