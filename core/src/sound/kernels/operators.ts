import { C4_HZ } from '../../theory/pitch';
import type { Kernel, KernelContext } from '../kernel';
import { Downsampler, FACTOR } from '../oversample';
import { sinTurns } from '../portable';
import { exp2Quick } from '../quick';
import { TOP } from './oscillator';
import { Tuning } from './tuning';

const PEAK = 5;
const TAU = 6.283185307179586;

/** What both share: a pitch, computed at four times the rate. `value` gives one sample; `inc` is the cycle's step. */
function overPitch(
  context: KernelContext,
  state: object,
  value: (i: number, inc: number) => number,
): Kernel {
  const pitch = context.input('pitch');
  const mod = context.input('mod');
  const out = context.output('out');
  const tuning = new Tuning(context);
  const down = new Downsampler();
  const four = new Float64Array(FACTOR);
  const base = C4_HZ / context.sampleRate;
  return {
    state: { ...state, down: down.state, tuning: tuning.state },
    process(from, to) {
      if (from === 0) tuning.update(64);
      for (let i = from; i < to; i++) {
        const inc = base * exp2Quick(pitch[i]! + mod[i]! + tuning.was + tuning.slope * i);
        const step = (inc < TOP ? inc : TOP) / FACTOR;
        for (let k = 0; k < FACTOR; k++) four[k] = value(i, step);
        out[i] = PEAK * down.pull(four);
      }
    },
  };
}

/** A sine whose phase a second one moves. */
export function twoOperator(context: KernelContext): Kernel {
  const ratio = context.number('ratio');
  const index = context.number('index');
  const feedback = context.number('feedback');
  const indexIn = context.input('index');
  /** Phase of the carrier and of the modulator, its last two values. */
  const S = new Float64Array(4);
  return overPitch(context, { S }, (i, inc) => {
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
  });
}

/** A sine folded back on itself. */
export function foldOscillator(context: KernelContext): Kernel {
  const fold = context.number('fold');
  const symmetry = context.number('symmetry');
  const foldIn = context.input('fold');
  const S = new Float64Array(1);
  return overPitch(context, { S }, (i, inc) => {
    const p = S[0]! + inc;
    S[0] = p - Math.floor(p);
    let gain = 1 + fold.was + fold.slope * i + foldIn[i]!;
    gain = gain < 0 ? 0 : gain > 14 ? 14 : gain;
    return sinTurns(0.25 * gain * sinTurns(S[0]!) + symmetry.value / 400);
  });
}
