import { kernelOf } from '../kernel';
import { Downsampler, FACTOR, HALF_DELAY, Upsampler } from '../oversample';
import { fromDecibelsPortable, sinTurns } from '../../theory/portable';

/** Ceiling of the curve in V at full drive. */
const CEILING = 8;
const LATE = 2 * HALF_DELAY;

const soft = (u: number): number => u / Math.sqrt(1 + u * u);

/** The curves, slope 1 through nothing but for `fold`, which is a quarter of a sine at its ceiling. */
const CURVES: Record<string, (u: number) => number> = {
  soft,
  hard: (u) => (u > 1 ? 1 : u < -1 ? -1 : u),
  fold: (u) => sinTurns(u / 4),
  'one-sided': (u) => (u > 0 ? soft(u) : soft(2 * u) / 2),
};

/**
 * Overload at four times the sample rate: u = gain * in/C, C = 8 V * gain/(gain - 1), so that with no gain the ceiling is
 * infinitely high and the signal passes untouched. The gain is made up again by its square root.
 */
export const drive = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const gain = context.number('gain');
    const curve = CURVES[context.choice('curve')]!;
    const up = new Upsampler();
    const down = new Downsampler();
    const four = new Float64Array(FACTOR);
    // The clean signal takes as long as the driven one, so that turning the drive up does not jump.
    const line = new Float64Array(32);
    const S = new Float64Array(1);
    return {
      state: { up: up.state, down: down.state, line, S },
      input,
      out,
      gain,
      curve,
      up,
      down,
      four,
      line,
      S,
    };
  },
  ({ input, out, gain, curve, up, down, four, line, S }, from, to) => {
    const before = fromDecibelsPortable(gain.was);
    const slope = (fromDecibelsPortable(gain.value) - before) / 64;
    const clean = before <= 1 && slope === 0;
    for (let i = from; i < to; i++) {
      const now = ++S[0]! & 31;
      line[now] = input[i]!;
      const g = before + slope * i;
      if (clean || g <= 1.000001) {
        out[i] = line[(now - LATE) & 31]!;
        continue;
      }
      const ceiling = (CEILING * g) / (g - 1);
      const into = g / ceiling;
      up.push(input[i]!, four);
      for (let k = 0; k < FACTOR; k++) four[k] = curve(into * four[k]!);
      const volts = (ceiling / Math.sqrt(g)) * down.pull(four);
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
  },
);
