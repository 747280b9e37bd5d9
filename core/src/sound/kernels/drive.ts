import { BLOCK, kernelOf } from '../kernel';
import { FAR_LATE, FarDownsampler, FarUpsampler } from '../oversample-far';
import { fromDecibelsPortable, sinTurns } from '../../theory/portable';

/** Ceiling of the curve in V at full drive. */
const CEILING = 8;
const TWO_OVER_PI = 0.6366197723675814;
/** How long the clean line is, a power of two, so that it holds what oversampling makes late. */
const LINE = 64;

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

/** Below it nothing is driven. */
const NO_GAIN = 1.000001;
/** Ceiling in V at a gain. */
const ceilingAt = (g: number): number => (g <= NO_GAIN ? Infinity : (CEILING * g) / (g - 1));

/**
 * Puts samples `from` to `to`, `factor` for each, through a curve.
 * @param last what the curve was last asked for  @returns what it is asked for last
 */
function bend(
  { of, area }: Curve,
  samples: Float64Array,
  last: number,
  gain: number,
  slope: number,
  factor: number,
  from: number,
  to: number,
): number {
  let lastArea = area(last);
  for (let k = factor * from; k < factor * to; k++) {
    const g = gain + slope * (k - factor * from);
    // Gain over ceiling.
    const u = g <= NO_GAIN ? 0 : ((g - 1) / CEILING) * samples[k]!;
    const step = u - last;
    const under = area(u);
    samples[k] = step < SHORT && step > -SHORT ? of((u + last) / 2) : (under - lastArea) / step;
    last = u;
    lastArea = under;
  }
  return last;
}

/**
 * Overload at sixteen times the sample rate (thirty-two where it folds: a saw at 40 dB of gain turns round thirty times in
 * one sample), each sample the mean of the curve on the way from the last one (Parker, Zavalishin
 * and Le Bivic, Reducing the aliasing of nonlinear waveshaping using continuous-time convolution, DAFx 2016): u = gain * in/C, C = 8 V * gain/(gain - 1), so that with no gain the ceiling is
 * infinitely high and the signal passes untouched. The gain is made up again by its square root.
 */
export const drive = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const gain = context.number('gain');
    const name = context.choice('curve');
    const curve = CURVES[name]!;
    const factor = name === 'fold' ? 32 : 16;
    const up = new FarUpsampler(factor);
    const down = new FarDownsampler(factor);
    const between = new Float64Array(factor * BLOCK);
    // The clean signal takes as long as the driven one, so that turning the drive up does not jump.
    const line = new Float64Array(LINE);
    // Where the clean line stands, and what the curve was last asked for.
    const S = new Float64Array(2);
    const state = { up: up.state, down: down.state, line, S };
    return { state, input, out, gain, curve, up, down, factor, between, line, S };
  },
  ({ input, out, gain, curve, up, down, factor, between, line, S }, from, to) => {
    const before = fromDecibelsPortable(gain.was);
    const slope = (fromDecibelsPortable(gain.value) - before) / BLOCK;
    const clean = before <= 1 && slope === 0;
    if (!clean) {
      up.up(input, from, to, between);
      S[1] = bend(curve, between, S[1]!, before + slope * from, slope / factor, factor, from, to);
      down.down(between, out, from, to);
    }
    for (let i = from; i < to; i++) {
      const now = ++S[0]! & (LINE - 1);
      line[now] = input[i]!;
      const g = before + slope * i;
      if (clean || g <= NO_GAIN) out[i] = line[(now - FAR_LATE) & (LINE - 1)]!;
      else {
        const volts = (ceilingAt(g) / Math.sqrt(g)) * out[i]!;
        out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
    }
  },
);
