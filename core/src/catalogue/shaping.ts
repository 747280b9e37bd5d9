import { addIntervals, hull, type Interval, isQuiet, scaled, ZERO } from './interval';
import { choice, type ModuleSpec, number } from './spec';

/** Scales that a voltage can be held to: semitones above the root, within an octave. */
export const SCALES: Readonly<Record<string, readonly number[]>> = {
  semitones: [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11],
  'whole-tones': [0, 2, 4, 6, 8, 10],
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  'five-notes': [0, 2, 4, 7, 9],
  fifths: [0, 7],
  octaves: [0],
};

const within = (all: Interval): Interval => hull(ZERO, all);
const channels = [1, 2, 3, 4] as const;

/** What holds, folds, follows and shares out voltages. */
export const shaping = {
  quantiser: {
    family: 'modulator',
    summary: 'Holds a voltage to the notes of a scale.',
    equation:
      'out = the nearest note of the scale above root/12 V, one semitone being 1/12 V; it lets go of a note 0.1 semitones beyond the middle to the next',
    inputs: { in: 'pitch' },
    outputs: { out: 'pitch' },
    params: { scale: choice(Object.keys(SCALES)), root: number('st', 0, 11, 0, 0) },
    bounds: ({ input }) => ({ out: addIntervals(input('in'), [-0.52, 0.52]) }),
  },
  rectifier: {
    family: 'modulator',
    summary: 'Turns over what is below nothing, or leaves one side out.',
    equation:
      'whole |in|; upper in where it is above 0, else 0; lower in where it is below 0, else 0; the mean over the way from the last sample',
    source:
      'The mean of the curve from sample to sample: Parker, Zavalishin and Le Bivic, DAFx 2016. Late by half a sample.',
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { side: choice(['whole', 'upper', 'lower']) },
    silentWithout: ['in'],
    bounds: ({ input }) => {
      const [lo, hi] = within(input('in'));
      return { out: [Math.min(lo, -Math.max(-lo, hi)), Math.max(-lo, hi)] };
    },
  },
  extremes: {
    family: 'modulator',
    summary: 'The higher and the lower of two voltages.',
    equation: 'high = max(a, b); low = min(a, b)',
    inputs: { a: 'modulation', b: 'modulation' },
    outputs: { high: 'modulation', low: 'modulation' },
    params: {},
    bounds: ({ input }) => {
      const [a, b] = [input('a'), input('b')];
      return {
        high: [Math.max(a[0], b[0]), Math.max(a[1], b[1])],
        low: [Math.min(a[0], b[0]), Math.min(a[1], b[1])],
      };
    },
  },
  follower: {
    family: 'modulator',
    summary: 'How loud a sound is, as a voltage; and a gate while it is louder than so much.',
    equation:
      'out follows |in|: 1 % of the way left after rise s upwards, after fall s downwards; gate = 5 V while out > threshold, letting go 10 % below it',
    inputs: { in: 'audio' },
    outputs: { out: 'modulation', gate: 'gate' },
    params: {
      rise: number('s', 0, 1, 0.005, 0),
      fall: number('s', 0, 5, 0.2, 0),
      threshold: number('V', 0.01, 10, 1),
    },
    silentWithout: ['in'],
    bounds: ({ input }) => {
      const [lo, hi] = input('in');
      return { out: [0, Math.max(-lo, hi)], gate: isQuiet(input('in')) ? ZERO : [0, 5] };
    },
  },
  crossfade: {
    family: 'level',
    summary: 'From one sound to another, by hand or by a voltage.',
    equation:
      'p = position/100 + cv/5, held in 0..1; even: out = (1-p) a + p b; equal: out = cos(pi p/2) a + sin(pi p/2) b',
    inputs: { a: 'audio', b: 'audio', cv: 'modulation' },
    outputs: { out: 'audio' },
    params: { position: number('%', 0, 100, 50), law: choice(['even', 'equal']) },
    bounds: ({ input, params }) => {
      const most = params.law === 'equal' ? Math.SQRT2 : 1;
      return { out: scaled(hull(within(input('a')), within(input('b'))), most) };
    },
  },
  pan: {
    family: 'level',
    summary: 'One sound between left and right, by hand or by a voltage.',
    equation:
      'p = (1 + position/100)/2 + cv/10, held in 0..1; left = sqrt(2) cos(pi p/2) in, right = sqrt(2) sin(pi p/2) in',
    inputs: { in: 'audio', cv: 'modulation' },
    outputs: { left: 'audio', right: 'audio' },
    params: { position: number('%', -100, 100, 0, 0) },
    silentWithout: ['in'],
    bounds: ({ input }) => {
      const all = scaled(within(input('in')), Math.SQRT2);
      return { left: all, right: all };
    },
  },
  'voltage-mixer': {
    family: 'level',
    summary: 'Four channels added, each opened by a voltage; one without a voltage stands open.',
    equation: 'out = sum of gain_n * in_n * (cv_n/5 held in 0..1; 1 where nothing is in cv_n)',
    inputs: {
      in1: 'audio',
      in2: 'audio',
      in3: 'audio',
      in4: 'audio',
      cv1: 'modulation',
      cv2: 'modulation',
      cv3: 'modulation',
      cv4: 'modulation',
    },
    outputs: { out: 'audio' },
    params: {
      gain1: number('x', 0, 2, 1, 0),
      gain2: number('x', 0, 2, 1, 0),
      gain3: number('x', 0, 2, 1, 0),
      gain4: number('x', 0, 2, 1, 0),
    },
    bounds: ({ input, number: value }) => ({
      out: channels
        .map((n) => scaled(within(input(`in${n}`)), value(`gain${n}`)))
        .reduce(addIntervals, ZERO),
    }),
    closes: (port, { params }) => {
      const n = port.slice(-1);
      return params[`gain${n}`] === 0
        ? { param: `gain${n}`, gate: false, why: 'is at 0' }
        : undefined;
    },
  },
} as const satisfies Record<string, ModuleSpec>;
