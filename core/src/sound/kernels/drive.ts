import { kernelOf } from '../kernel';
import { Downsampler, FACTOR, HALF_DELAY, Upsampler } from '../oversample';
import { fromDecibelsPortable, sinTurns } from '../../theory/portable';

/** Ceiling of the curve in V at full drive. */
const CEILING = 8;
const TWO_OVER_PI = 0.6366197723675814;
const LATE = 2 * HALF_DELAY;

const soft = (u: number): number => u / Math.sqrt(1 + u * u);
const softArea = (u: number): number => Math.sqrt(1 + u * u);

/** A curve, slope 1 through nothing, and its antiderivative. */
interface Curve {
  of(u: number): number;
  area(u: number): number;
}

const CURVES: Record<string, Curve> = {
  soft: { of: soft, area: softArea },
  hard: {
    of: (u) => (u > 1 ? 1 : u < -1 ? -1 : u),
    area: (u) => (u > 1 || u < -1 ? Math.abs(u) - 0.5 : (u * u) / 2),
  },
  /** Slope pi/2: a quarter of a sine at its ceiling. */
  fold: { of: (u) => sinTurns(u / 4), area: (u) => -sinTurns(u / 4 + 0.25) * TWO_OVER_PI },
  'one-sided': {
    of: (u) => (u > 0 ? soft(u) : soft(2 * u) / 2),
    area: (u) => (u > 0 ? softArea(u) : softArea(2 * u) / 4 + 0.75),
  },
};

/** Steps shorter than this are taken at their middle: the difference of two areas would be less exact. */
const SHORT = 1e-3;

/**
 * Overload at four times the sample rate, each sample the mean of the curve on the way from the last one (Parker, Zavalishin
 * and Le Bivic, Reducing the aliasing of nonlinear waveshaping using continuous-time convolution, DAFx 2016): u = gain * in/C, C = 8 V * gain/(gain - 1), so that with no gain the ceiling is
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
    // Where the clean line stands, and what the curve was last asked for.
    const S = new Float64Array(2);
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
      let before4 = S[1]!;
      for (let k = 0; k < FACTOR; k++) {
        const u = into * four[k]!;
        const step = u - before4;
        four[k] =
          step < SHORT && step > -SHORT
            ? curve.of((u + before4) / 2)
            : (curve.area(u) - curve.area(before4)) / step;
        before4 = u;
      }
      S[1] = before4;
      const volts = (ceiling / Math.sqrt(g)) * down.pull(four);
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
  },
);
