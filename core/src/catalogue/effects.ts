import { choice, type ModuleSpec, number } from './spec';
import { asItComes } from './passing';

const stereo = {
  inputs: { in: 'audio', left: 'audio', right: 'audio' },
  outputs: { out: 'audio', left: 'audio', right: 'audio' },
  voices: 'close',
} as const;
const mix = { mix: number('%', 0, 100, 30, 0) };
const MIX = 'in goes to both sides; left = (1 - mix/100) * dry + mix/100 * wet';

export const driveCurves = ['soft', 'hard', 'fold', 'one-sided'] as const;

export const effects = {
  drive: {
    family: 'effect',
    summary:
      'Overload: gain into a curve with a ceiling of 8 V; untouched (but for the time it takes) with no gain. It does not keep its loudness: a saw of 5 V comes out 1 to 6 dB louder at 6 dB of gain and 11 to 14 dB quieter at 40; one of 1 V 6 to 11 dB louder at 20.',
    equation:
      'u = gain * in/C, C = 8 V * gain/(gain - 1); soft u/sqrt(1 + u^2); hard u held in -1..1; fold sin(pi/2 u); one-sided soft, the lower half at half the ceiling; made up by C/sqrt(gain)',
    source:
      'Computed at four times the sample rate, 97-tap linear-phase filters, each sample the mean of the curve on the way from the last (Parker, Zavalishin and Le Bivic, DAFx 2016). Late by 24 samples.',
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { gain: number('dB', 0, 40, 0, 0), curve: choice(driveCurves) },
    silentWithout: ['in'],
    bounds: asItComes,
  },
  chorus: {
    family: 'effect',
    summary: 'Two delays on each side, slowly moved.',
    equation: `wet = mean of two delays of 7 ms + depth/100 * 5 ms * sin at rate, a quarter of a cycle apart, the right side half a cycle behind; ${MIX}`,
    source: 'J. Dattorro, Effect Design 2, JAES 45 (1997); cubic interpolation',
    ...stereo,
    params: {
      rate: number('Hz', 0.01, 20, 0.6),
      depth: number('%', 0, 100, 40, 0),
      mix: number('%', 0, 100, 50, 0),
    },
    silentWithout: ['in', 'left', 'right'],
  },
  phaser: {
    family: 'effect',
    summary: 'Four, six or eight all-passes that sweep, with feedback.',
    equation: `wet = dry through all-passes at centre * 2^(depth * sin), depth in octaves, and feedback around them; right side a quarter of a cycle behind; ${MIX}`,
    source: 'V. Zavalishin, The Art of VA Filter Design (2018), chapter 3: one-pole all-passes',
    ...stereo,
    params: {
      stages: choice(['four', 'six', 'eight']),
      rate: number('Hz', 0.01, 20, 0.3),
      centre: number('Hz', 50, 8000, 700),
      depth: number('oct', 0, 4, 1.5, 0),
      feedback: number('%', 0, 95, 30, 0),
      mix: number('%', 0, 100, 50, 0),
    },
    silentWithout: ['in', 'left', 'right'],
  },
  delay: {
    family: 'effect',
    summary:
      'Two delays, free or tied to the tempo at ratios of their own; filtered feedback up to self-oscillation, held by a limiter.',
    equation: `each side's loop: d = limit(in + feedback/100 * cut(d delayed)), limit(x) = x/sqrt(1 + (x/12 V)^2); cut = one-pole low-pass at high-cut, high-pass at low-cut; ping-pong: the sides feed each other, the sound enters left; ${MIX}`,
    source: 'J. Dattorro, Effect Design 2, JAES 45 (1997); cubic interpolation',
    ...stereo,
    params: {
      clock: choice(['free', 'tempo']),
      'time-left': number('s', 0.001, 4, 0.35),
      'time-right': number('s', 0.001, 4, 0.35),
      'beats-left': number('beats', 0.03125, 8, 0.75),
      'beats-right': number('beats', 0.03125, 8, 0.75),
      feedback: number('%', 0, 120, 35, 0),
      routing: choice(['side-by-side', 'ping-pong']),
      'low-cut': number('Hz', 5, 2000, 80),
      'high-cut': number('Hz', 200, 20000, 6000),
      ...mix,
    },
    silentWithout: ['in', 'left', 'right'],
  },
  reverb: {
    family: 'effect',
    summary: 'Late field of a room: pre-delay, decay, damping, cuts.',
    equation: `eight delays of 29 to 79 ms (at size 1) fed back through an orthogonal matrix, each with the gain that takes 60 dB in decay s, and a one-pole low-pass at damping; low- and high-cut before it; ${MIX}`,
    source:
      'J.-M. Jot and A. Chaigne, Digital Delay Networks for Designing Artificial Reverberators, AES 90 (1991); Hadamard matrix',
    ...stereo,
    params: {
      'pre-delay': number('s', 0, 0.5, 0.02, 0),
      decay: number('s', 0.1, 60, 2),
      size: number('x', 0.2, 1.5, 1),
      damping: number('Hz', 200, 20000, 5000),
      'low-cut': number('Hz', 5, 2000, 100),
      'high-cut': number('Hz', 200, 20000, 10000),
      ...mix,
    },
    silentWithout: ['in', 'left', 'right'],
  },
  limiter: {
    family: 'effect',
    summary: 'Holds the peaks under its ceiling.',
    equation:
      'gain = 1 while the peak is below ceiling, else ceiling/peak, at once; back by 1 % left after release s; both sides alike',
    ...stereo,
    params: { ceiling: number('V', 0.1, 12, 10), release: time() },
    silentWithout: ['in', 'left', 'right'],
  },
} as const satisfies Record<string, ModuleSpec>;

function time() {
  return number('s', 0.001, 5, 0.2);
}
