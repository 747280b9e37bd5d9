import { underVoltage } from './by-voltage';
import { cutoffInterval } from './low-pass';
import { addIntervals, type Interval, isQuiet, scaled } from './interval';
import { HAIR } from './key-bounds';
import { type Situation, zero } from './situation';
import { choice, type ModuleSpec, number } from './spec';

const ZDF =
  'V. Zavalishin, The Art of VA Filter Design (2018): trapezoidal integrators, loop solved in the same sample';
const CUTOFF = 'fc = cutoff * 2^(cutoff-in + track/100 * pitch), 5 Hz to 20 kHz';

const whistle = underVoltage({ resonance: 0.2 });
const voiced = {
  inputs: { in: 'audio', cutoff: 'modulation', pitch: 'pitch', ...whistle.inputs },
  byVoltage: whistle.byVoltage,
  outputs: { out: 'audio', hz: 'modulation' },
} as const;
const corner = {
  cutoff: number('Hz', 5, 20000, 1000, 20000),
  resonance: number('', 0, 1, 0, 0),
  track: number('%', -200, 200, 0, 0),
};

/** Where two voltages and its knob take a corner in Hz. */
const reached = ({ params, input, number: value }: Situation): Interval =>
  cutoffInterval(
    params,
    addIntervals(input('cutoff'), scaled(input('pitch'), value('track') / 100)),
  );

/** What comes out of a filter that whistles above so much resonance. */
const ringing =
  (from: number) =>
  (of: Situation): Record<string, Interval> => {
    const quiet = isQuiet(of.input('in')) && of.number('resonance') < from;
    return { out: quiet ? [0, 0] : [-20, 20], hz: reached(of) };
  };

/** Vowels, darkest first: centres in Hz, levels in dB. */
export const VOWELS = [
  { name: 'u', hz: [300, 870, 2240], db: [-3, -19, -43] },
  { name: 'o', hz: [570, 840, 2410], db: [0, -7, -34] },
  { name: 'a', hz: [730, 1090, 2440], db: [-1, -5, -28] },
  { name: 'e', hz: [530, 1840, 2480], db: [-2, -17, -24] },
  { name: 'i', hz: [270, 2290, 3010], db: [-4, -24, -28] },
] as const;

export const poleModes = ['low-24', 'low-12', 'band-24', 'band-12', 'high-24', 'high-12'] as const;

const combMoves = underVoltage({ feedback: 20, damping: 'octaves', mix: 20 });
const formantMoves = underVoltage({ vowel: 0.8, shift: 2.4, mix: 20 });

/** Filters that overload, of four poles, that ring in tune, and that speak. */
export const tone = {
  'overload-12': {
    family: 'filter',
    summary:
      'Two-pole filter that overloads from 5 V on and whistles from resonance 0.91 on, at 5 V.',
    equation: `${CUTOFF}; in overloads first: 5 V * u/sqrt(1 + u^2), u = in/5 V; then s^2 + k s + 1 as in state-variable with k = sqrt(2) (1 - 1.1 resonance) plus 0.1414 (band^2 + low^2)/25 for what is loud`,
    source: `${ZDF}, chapter 4; at four times the sample rate`,
    ...voiced,
    params: { mode: choice(['low', 'band', 'high']), ...corner },
    bounds: ringing(0.9),
    closes: (port, { params }) => (port === 'pitch' ? zero(params, 'track') : undefined),
  },
  'four-pole': {
    family: 'filter',
    summary:
      'Four-pole ladder whose poles are mixed to low, band and high of 12 and 24 dB; whistles from resonance 0.91 on.',
    equation: `${CUTOFF}; with p = 1/(s + 1) and D = 1 + 4.4 resonance p^4: low-24 p^4/D, low-12 p^2/D, band-24 4 (p^2 - 2 p^3 + p^4)/D, band-12 2 (p - p^2)/D, high-24 (1 - p)^4/D, high-12 (1 - p)^2/D; what goes into the first pole saturates at 7 V as in low-pass-24`,
    source: `${ZDF}, chapter 5: mixed from the taps of the ladder; at twice the sample rate`,
    ...voiced,
    params: { mode: choice(poleModes), ...corner },
    bounds: ringing(0.9),
    closes: (port, { params }) => (port === 'pitch' ? zero(params, 'track') : undefined),
  },
  comb: {
    family: 'filter',
    summary:
      'A short delay fed back: rings at a pitch and its harmonics, or with feedback below 0 at the odd ones.',
    equation:
      'f = frequency * 2^(frequency-in + track/100 * pitch), 20 Hz to 8 kHz; y = limit(in + feedback/100 * cut(y delayed)), one time round 1/f s; cut = one-pole low-pass at damping, its time made up; limit(x) = x/sqrt(1 + (x/12 V)^2); out = (1 - mix/100) * in + mix/100 * y',
    source:
      'K. Karplus and A. Strong, Digital Synthesis of Plucked-String and Drum Timbres (1983); cubic interpolation',
    inputs: { in: 'audio', frequency: 'modulation', pitch: 'pitch', ...combMoves.inputs },
    byVoltage: combMoves.byVoltage,
    outputs: { out: 'audio' },
    params: {
      frequency: number('Hz', 20, 8000, 220),
      track: number('%', -200, 200, 0, 0),
      feedback: number('%', -99.9, 99.9, 70, 0),
      damping: number('Hz', 200, 20000, 20000, 20000),
      mix: number('%', 0, 100, 50, 0),
    },
    silentWithout: ['in'],
    closes: (port, { params }) => (port === 'pitch' ? zero(params, 'track') : undefined),
  },
  formant: {
    family: 'filter',
    summary: 'Three bands where a mouth has them: vowels from u to i, and between.',
    equation: `out = (1 - mix/100) * in + mix/100 * sum of 10^(dB/20) * B_i(in), B_i = (s/Q)/(s^2 + s/Q + 1), Q = sharpness * f_i/(60, 90, 120 Hz), at f_i * 2^(shift/12); ${VOWELS.map((v, i) => `${i} ${v.name}: ${v.hz.join(', ')} Hz at ${v.db.join(', ')} dB`).join('; ')}; between two by equal ratios and equal dB`,
    source:
      'G. E. Peterson and H. L. Barney, Control Methods Used in a Study of the Vowels, JASA 24 (1952): means',
    inputs: { in: 'audio', ...formantMoves.inputs },
    byVoltage: formantMoves.byVoltage,
    outputs: { out: 'audio' },
    params: {
      vowel: number('', 0, 4, 2),
      shift: number('st', -12, 12, 0, 0),
      sharpness: number('x', 0.2, 3, 1),
      mix: number('%', 0, 100, 100, 0),
    },
    silentWithout: ['in'],
  },
} as const satisfies Record<string, ModuleSpec>;

/** Rows of the module of that name, and their steps. */
export const ROWS = ['a', 'b', 'c'] as const;
export const STEPS = [1, 2, 3, 4, 5, 6, 7, 8] as const;
const rowMoves = underVoltage({ last: 1.4 });

/** Rows of voltages with a clock of their own. */
export const rows = {
  rows: {
    family: 'modulator',
    summary:
      'Three rows of eight voltages with a clock of their own, from slow to audible: each row is an output, each step may open the gate, and the first row is a wave.',
    equation:
      'while nothing is in clock a step begins rate * 2^rate-in times a second, else at each opening of clock; after `last` from the first again; reset: the first step at once; a, b, c = the step of each row; gate = 5 V for the first half of a step whose gate is 1, as long as the clock is open with a clock from outside; wave = row a with edges that are band-limited, late by 24 samples',
    source: 'Steps band-limited as those of the oscillators.',
    inputs: { clock: 'gate', reset: 'gate', rate: 'modulation', ...rowMoves.inputs },
    byVoltage: rowMoves.byVoltage,
    outputs: { a: 'pitch', b: 'pitch', c: 'pitch', gate: 'gate', wave: 'audio' },
    params: {
      ...(Object.fromEntries(
        ROWS.flatMap((row) => STEPS.map((i) => [`${row}${i}`, number('V', -10, 10, 0, 0)])),
      ) as Record<`${(typeof ROWS)[number]}${(typeof STEPS)[number]}`, ReturnType<typeof number>>),
      ...(Object.fromEntries(STEPS.map((i) => [`gate${i}`, number('', 0, 1, 1)])) as Record<
        `gate${(typeof STEPS)[number]}`,
        ReturnType<typeof number>
      >),
      rate: number('Hz', 0.05, 4000, 4),
      last: number('', 1, 8, 8),
    },
    bounds: ({ number: value }) => ({
      ...Object.fromEntries(
        ROWS.map((row) => {
          const volts = STEPS.map((i) => value(`${row}${i}`));
          return [row, [Math.min(...volts) - HAIR, Math.max(...volts) + HAIR] as Interval];
        }),
      ),
      gate: [0, 5],
      wave: [-14, 14],
    }),
    sounds: true,
  },
} as const satisfies Record<string, ModuleSpec>;
