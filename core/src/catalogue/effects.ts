import { underVoltage } from './by-voltage';
import { choice, type ModuleSpec, number } from './spec';
import { asItComes } from './passing';

const stereo = {
  inputs: { in: 'audio', left: 'audio', right: 'audio' },
  outputs: { out: 'audio', left: 'audio', right: 'audio' },
  voices: 'close',
} as const;
/** Effects whose parameters voltages move: their inputs, and what they move. */
const stereoWith = <T extends Record<string, number | 'octaves' | readonly string[]>>(moves: T) => {
  const { inputs, byVoltage } = underVoltage(moves);
  return { ...stereo, inputs: { ...stereo.inputs, ...inputs }, byVoltage };
};
const mix = { mix: number('%', 0, 100, 30, 0) };
const MIX = 'in goes to both sides; left = (1 - mix/100) * dry + mix/100 * wet';

const ZDF = 'V. Zavalishin, The Art of VA Filter Design (2018)';
const compressing = (() => {
  const { inputs, ...rest } = stereoWith({ threshold: 'octaves', mix: 20 });
  return { ...rest, inputs: { ...inputs, side: 'audio' } } as const;
})();
const shiftMoves = underVoltage({ shift: 200, mix: 20 });
const driveMoves = underVoltage({ gain: 8 });
export const driveCurves = ['soft', 'hard', 'fold', 'one-sided'] as const;

export const effects = {
  drive: {
    family: 'effect',
    summary:
      'Overload: gain into a curve with a ceiling of 8 V; untouched (but for the time it takes) with no gain. It does not keep its loudness: a saw of 5 V comes out 1 to 6 dB louder at 6 dB of gain and 11 to 14 dB quieter at 40; one of 1 V 6 to 11 dB louder at 20.',
    equation:
      'u = gain * in/C, C = 8 V * gain/(gain - 1); soft u/sqrt(1 + u^2); hard u held in -1..1; fold sin(pi/2 u); one-sided soft, the lower half at half the ceiling; made up by C/sqrt(gain)',
    source:
      'Computed at sixteen times the sample rate, thirty-two where it folds, linear-phase filters, each sample the mean of the curve on the way from the last (Parker, Zavalishin and Le Bivic, DAFx 2016): what folds down stays 75 dB under a saw of 5 V to 1760 Hz at any gain. Late by 50 samples.',
    inputs: { in: 'audio', ...driveMoves.inputs },
    byVoltage: driveMoves.byVoltage,
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
    ...stereoWith({ rate: 'octaves', depth: 20, mix: 20 }),
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
    ...stereoWith({ rate: 'octaves', centre: 'octaves', depth: 0.8, feedback: 20, mix: 20 }),
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
    ...stereoWith({
      time: ['time-left', 'time-right', 'beats-left', 'beats-right'],
      feedback: 20,
      'high-cut': 'octaves',
      mix: 20,
    }),
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
    ...stereoWith({ decay: 'octaves', damping: 'octaves', mix: 20 }),
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
  spring: {
    family: 'effect',
    summary: 'A spring that is shaken: echoes that smear into chirps, dark first.',
    equation: `each side one spring of 41 and 47 ms (at length 1): y = cut(in above 100 Hz + g * chirp(y delayed)), chirp = forty all-passes (0.62 + z^-n)/(1 + 0.62 z^-n), n = an 8000th of a second; cut = one-pole low-pass at damping; g takes 60 dB in decay s; ${MIX}`,
    source:
      'V. Valimaki, J. Parker and J. S. Abel, Parametric Spring Reverberation Effect, JAES 58 (2010): its chain of stretched all-passes',
    ...stereoWith({ decay: 'octaves', mix: 20 }),
    params: {
      decay: number('s', 0.2, 8, 2),
      length: number('x', 0.5, 2, 1),
      damping: number('Hz', 500, 8000, 3500),
      ...mix,
    },
    silentWithout: ['in', 'left', 'right'],
  },
  compressor: {
    family: 'effect',
    summary: 'Makes what is loud quieter: by its own level, or by what is put into its side input.',
    equation: `l = the larger of both sides, or |side| when something is in side; wanted = (threshold/l)^(1 - 1/ratio) where l is above threshold, else 1; the gain goes there in dB, 1 % of the way left after attack s downwards, release s upwards; times makeup; ${MIX}`,
    source:
      'D. Giannoulis, M. Massberg and J. D. Reiss, Digital Dynamic Range Compressor Design, JAES 60 (2012): feed-forward, hard knee, gain smoothed in dB',
    ...compressing,
    params: {
      threshold: number('V', 0.05, 10, 2),
      ratio: number('x', 1, 20, 4, 1),
      attack: number('s', 0.0005, 0.5, 0.01),
      release: number('s', 0.01, 3, 0.2),
      makeup: number('dB', 0, 24, 0, 0),
      mix: number('%', 0, 100, 100, 0),
    },
    silentWithout: ['in', 'left', 'right'],
  },
  equaliser: {
    family: 'effect',
    summary: 'Low shelf, a bell, high shelf.',
    equation: `low: 10^(low/20) at 0 Hz, half of its dB at low-corner; bell: 10^(bell/20) at bell-centre, Q = sharpness; high: 10^(high/20) far above high-corner; each a two-pole filter mixed with what went in; ${MIX}`,
    source:
      'A. Simper, Solving the Continuous SVF Equations Using Trapezoidal Integration and Equivalent Currents (2013): its shelves and bell',
    ...stereoWith({ low: 3.6, bell: 3.6, high: 3.6, mix: 20 }),
    params: {
      low: number('dB', -18, 18, 0, 0),
      'low-corner': number('Hz', 20, 1000, 120),
      bell: number('dB', -18, 18, 0, 0),
      'bell-centre': number('Hz', 50, 15000, 1000),
      sharpness: number('', 0.3, 10, 1),
      high: number('dB', -18, 18, 0, 0),
      'high-corner': number('Hz', 500, 18000, 5000),
      mix: number('%', 0, 100, 100, 0),
    },
    silentWithout: ['in', 'left', 'right'],
  },
  speaker: {
    family: 'effect',
    summary:
      'A loudspeaker in its box before a microphone: no lows beneath the box, no highs above the cone, a bite between.',
    equation:
      'two-pole high-pass at body, Q 1; bell of bite dB at 0.6 * edge, Q 1.2; four-pole Butterworth low-pass at edge',
    source: `${ZDF}, chapter 4; the bell after A. Simper (2013)`,
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: {
      body: number('Hz', 30, 300, 85),
      edge: number('Hz', 1500, 12000, 4500),
      bite: number('dB', -6, 15, 5, 0),
    },
    silentWithout: ['in'],
  },
  shifter: {
    family: 'effect',
    summary: 'Moves all frequencies by the same number of hertz: what was in tune is no more.',
    equation:
      'a = in, b = in a quarter of a cycle later at every frequency; up = a cos(w) - b sin(w), down = a cos(w) + b sin(w), w turns at shift Hz; out = (1 - mix/100) * in + mix/100 * up',
    source:
      'Two chains of four all-passes a quarter of a cycle apart within 0.7 degrees from 20 Hz up, the coefficients by O. Niemitalo (1999), public domain',
    inputs: { in: 'audio', ...shiftMoves.inputs },
    byVoltage: shiftMoves.byVoltage,
    outputs: { out: 'audio', up: 'audio', down: 'audio' },
    params: { shift: number('Hz', -4000, 4000, 5, 0), mix: number('%', 0, 100, 100, 0) },
    silentWithout: ['in'],
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
