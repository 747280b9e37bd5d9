import { C4_HZ } from '../../theory/pitch';
import { BLOCK, type Kernel, kernelOf, type KernelContext } from '../kernel';
import { Downsampler, FACTOR } from '../oversample';
import { sinTurns } from '../../theory/portable';
import { exp2Quick } from '../quick';
import { TOP } from './oscillator';
import { Tuning } from './tuning';

const PEAK = 5;
const TAU = 6.283185307179586;

/**
 * Oscillators computed at four times the rate.
 * @param make an oscillator's own parts
 * @param value one sample of it, where `inc` is the cycle's step
 */
const overPitch = <P extends { state: object }>(
  make: (context: KernelContext) => P,
  value: (own: P, i: number, inc: number) => number,
): ((context: KernelContext) => Kernel) =>
  kernelOf(
    (context) => {
      const own = make(context);
      const tuning = new Tuning(context);
      const down = new Downsampler();
      return {
        state: { ...own.state, down: down.state, tuning: tuning.state },
        own,
        tuning,
        down,
        pitch: context.input('pitch'),
        mod: context.input('mod'),
        out: context.output('out'),
        four: new Float64Array(FACTOR * BLOCK),
        base: C4_HZ / context.sampleRate,
      };
    },
    ({ own, tuning, down, pitch, mod, out, four, base }, from, to) => {
      if (from === 0) tuning.update(64);
      for (let i = from; i < to; i++) {
        const inc = base * exp2Quick(pitch[i]! + mod[i]! + tuning.was + tuning.slope * i);
        const step = (inc < TOP ? inc : TOP) / FACTOR;
        for (let k = FACTOR * i; k < FACTOR * (i + 1); k++) four[k] = PEAK * value(own, i, step);
      }
      down.down(four, out, from, to);
    },
  );

/** A sine whose phase a second one moves. */
export const twoOperator = overPitch(
  (context) => ({
    /** Phase of the carrier and of the modulator, its last two values. */
    state: { S: new Float64Array(4) },
    ratio: context.number('ratio'),
    index: context.number('index'),
    feedback: context.number('feedback'),
    indexIn: context.input('index'),
  }),
  ({ state: { S }, ratio, index, feedback, indexIn }, i, inc) => {
    const p = S[0]! + inc;
    S[0] = p - Math.floor(p);
    const q = S[1]! + inc * (ratio.was + ratio.slope * i);
    S[1] = q - Math.floor(q);
    // feedback/100 * pi/2 * mean, in turns: a quarter of a turn at most.
    const own = (feedback.value / 800) * (S[2]! + S[3]!);
    const m = sinTurns(S[1]! + own);
    S[3] = S[2]!;
    S[2] = m;
    let depth = index.was + index.slope * i + indexIn[i]!;
    depth = depth < 0 ? 0 : depth > 30 ? 30 : depth;
    return sinTurns(S[0]! + (depth * m) / TAU);
  },
);

/** A sine folded back on itself. */
export const foldOscillator = overPitch(
  (context) => ({
    state: { S: new Float64Array(1) },
    fold: context.number('fold'),
    symmetry: context.number('symmetry'),
    foldIn: context.input('fold'),
  }),
  ({ state: { S }, fold, symmetry, foldIn }, i, inc) => {
    const p = S[0]! + inc;
    S[0] = p - Math.floor(p);
    let gain = 1 + fold.was + fold.slope * i + foldIn[i]!;
    gain = gain < 0 ? 0 : gain > 14 ? 14 : gain;
    return sinTurns(0.25 * gain * sinTurns(S[0]!) + symmetry.value / 400);
  },
);
