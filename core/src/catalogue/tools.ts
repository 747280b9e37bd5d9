import { addIntervals, hull, type Interval, isQuiet, scaled, ZERO } from './interval';
import { underVoltage } from './by-voltage';
import { HAIR } from './key-bounds';
import { asItCame } from './passing';
import { RAIL } from './rail';
import { zero } from './situation';
import { choice, type ModuleSpec, number } from './spec';

const inOut = {
  inputs: { in: 'modulation' },
  outputs: { out: 'modulation' },
  silentWithout: ['in'],
} as const;
const each = ([lo, hi]: Interval, f: (volts: number) => number): Interval => [f(lo), f(hi)];
const levelMoves = underVoltage({ gain1: 0.2, gain2: 0.2, gain3: 0.2, gain4: 0.2 });
const gain = (value = 0) => number('x', 0, 2, value, 0);

export const tools = {
  mixer: {
    family: 'level',
    summary: 'Four channels added, each with its gain.',
    equation: 'out = gain1 * in1 + gain2 * in2 + gain3 * in3 + gain4 * in4',
    inputs: {
      in1: 'audio',
      in2: 'audio',
      in3: 'audio',
      in4: 'audio',
      ...levelMoves.inputs,
    },
    byVoltage: levelMoves.byVoltage,
    outputs: { out: 'audio' },
    params: { gain1: gain(), gain2: gain(), gain3: gain(), gain4: gain() },
    bounds: ({ input, number }) => ({
      out: [1, 2, 3, 4]
        .map((i) => scaled(input(`in${i}`), number(`gain${i}`)))
        .reduce(addIntervals, ZERO),
    }),
    closes: (port, { params }) =>
      port.startsWith('in') ? zero(params, port.replace('in', 'gain')) : undefined,
  },
  attenuator: {
    family: 'level',
    folds: true,
    summary: 'Scales a signal; a negative gain inverts it.',
    equation: 'out = gain * in',
    ...inOut,
    params: { gain: number('x', -20, 20, 0, 0) },
    bounds: ({ input, number }) => ({ out: scaled(input('in'), number('gain')) }),
    closes: (_port, { params }) => zero(params, 'gain'),
  },
  inverter: {
    family: 'modulator',
    folds: true,
    summary: 'Turns a signal over.',
    equation: 'out = -in',
    ...inOut,
    params: {},
    bounds: ({ input }) => ({ out: scaled(input('in'), -1) }),
  },
  offset: {
    family: 'modulator',
    summary: 'Adds a steady voltage.',
    equation: 'out = in + volts',
    inputs: { in: 'modulation' },
    outputs: { out: 'modulation' },
    params: { volts: number('V', -10, 10, 0, 0) },
    bounds: ({ input, number }) => ({
      out: addIntervals(input('in'), [number('volts'), number('volts')]),
    }),
  },
  multiple: {
    family: 'modulator',
    folds: true,
    summary: 'One signal, four times.',
    equation: 'out1 = out2 = out3 = out4 = in',
    inputs: { in: 'modulation' },
    outputs: { out1: 'modulation', out2: 'modulation', out3: 'modulation', out4: 'modulation' },
    params: {},
    silentWithout: ['in'],
    bounds: ({ input }) => {
      const all = input('in');
      return { out1: all, out2: all, out3: all, out4: all };
    },
  },
  selector: {
    family: 'level',
    summary: 'One of four signals.',
    equation: 'out = in1, in2, in3 or in4',
    inputs: { in1: 'audio', in2: 'audio', in3: 'audio', in4: 'audio' },
    outputs: { out: 'audio' },
    params: { choice: choice(['in1', 'in2', 'in3', 'in4']) },
    silentWithout: ['in1', 'in2', 'in3', 'in4'],
    closes: (port, { params }) =>
      port === params.choice
        ? undefined
        : { param: 'choice', gate: false, why: `is at ${params.choice}` },
  },
  slew: {
    family: 'modulator',
    summary: 'Follows a signal no faster than it may.',
    equation:
      'linear: rises at 5 V in rise s, falls at 5 V in fall s; exponential: 1 % of the way left after that',
    ...inOut,
    params: {
      rise: number('s', 0, 20, 0.1, 0),
      fall: number('s', 0, 20, 0.1, 0),
      curve: choice(['linear', 'exponential']),
    },
    bounds: asItCame,
  },
  comparator: {
    family: 'modulator',
    summary: 'A gate while one signal is above another.',
    equation: 'out = 5 V while in > reference + threshold, else 0; it lets go 0.05 V lower',
    inputs: { in: 'modulation', reference: 'modulation' },
    outputs: { out: 'gate' },
    params: { threshold: number('V', -10, 10, 0) },
  },
  logic: {
    family: 'modulator',
    summary: 'Joins two gates.',
    equation: 'a and b count as open above 2.5 V; out = 5 V or 0',
    inputs: { a: 'gate', b: 'gate' },
    outputs: { out: 'gate' },
    params: { kind: choice(['and', 'or', 'xor', 'nand', 'nor', 'not']) },
  },
  divider: {
    family: 'modulator',
    summary: 'Passes every n-th clock.',
    equation:
      'out opens with the first, (n+1)-th, (2n+1)-th opening of in, and shuts with it; reset begins anew',
    inputs: { in: 'gate', reset: 'gate' },
    outputs: { out: 'gate' },
    params: { by: number('', 1, 64, 2) },
    silentWithout: ['in'],
  },
  clock: {
    family: 'modulator',
    summary: 'A clock tied to the tempo.',
    equation:
      'out = 5 V for the first half of every `beats` quarter notes, counted from the start; of each pair the first takes `swing` per cent',
    inputs: {},
    outputs: { out: 'gate' },
    params: { beats: number('beats', 0.03125, 64, 0.25), swing: number('%', 50, 75, 50, 0) },
  },
  'sample-hold': {
    family: 'modulator',
    summary: 'Keeps what came in at the last trigger.',
    equation: 'out = in at the moment the trigger rose above 2.5 V',
    inputs: { in: 'modulation', trigger: 'gate' },
    outputs: { out: 'modulation' },
    params: {},
    bounds: asItCame,
  },
  row: {
    family: 'modulator',
    summary: 'A row of eight voltages, one a clock.',
    equation:
      'out = volts of the step; each opening of clock goes one step on: forward, back, there and back (both ends twice), as a pendulum (both ends once), or at random; after `last` from the first again; reset: the next clock is the first step; gate = clock',
    inputs: { clock: 'gate', reset: 'gate' },
    outputs: { out: 'pitch', gate: 'gate' },
    params: {
      ...(Object.fromEntries(
        [1, 2, 3, 4, 5, 6, 7, 8].map((i) => [`volts${i}`, number('V', -10, 10, 0, 0)]),
      ) as Record<`volts${1 | 2 | 3 | 4 | 5 | 6 | 7 | 8}`, ReturnType<typeof number>>),
      last: number('', 1, 8, 8),
      direction: choice(['forward', 'back', 'there-and-back', 'pendulum', 'random']),
    },
    bounds: ({ input, number }) => {
      const volts = [1, 2, 3, 4, 5, 6, 7, 8]
        .slice(0, number('last'))
        .map((i) => number(`volts${i}`));
      // Without a clock it stands on its first step.
      const steps = isQuiet(input('clock')) ? volts.slice(0, 1) : volts;
      return { out: [Math.min(...steps) - HAIR, Math.max(...steps) + HAIR], gate: input('clock') };
    },
  },
  'to-hz-volt': {
    family: 'modulator',
    summary: 'Pitch converter: volts an octave into hertz a volt.',
    equation: 'out = base * 2^in, 20 V at most',
    inputs: { in: 'pitch' },
    outputs: { out: 'pitch' },
    params: { base: number('V', 0.05, 5, 1) },
    bounds: ({ input, number }) => ({
      out: each(input('in'), (v) => Math.min(RAIL, number('base') * 2 ** v)),
    }),
  },
  'from-hz-volt': {
    family: 'modulator',
    summary: 'Pitch converter: hertz a volt into volts an octave.',
    equation: 'out = log2(in/base), -10 V for what is not above 0 V',
    inputs: { in: 'pitch' },
    outputs: { out: 'pitch' },
    params: { base: number('V', 0.05, 5, 1) },
    bounds: ({ input, number }) => ({
      out: each(input('in'), (v) => (v > 0 ? Math.max(-10, Math.log2(v / number('base'))) : -10)),
    }),
  },
  amplifier: {
    family: 'level',
    summary: 'Voltage controlled amplifier, full at 5 V; velocity takes away up to its depth.',
    equation:
      'out = in * g * (1 - velocity/100 * (1 - velocity-in/5)); linear g = cv/5, exponential g = (1000^(cv/5) - 1)/999; 0 <= g <= 1',
    inputs: { in: 'audio', cv: 'modulation', velocity: 'modulation' },
    outputs: { out: 'audio' },
    params: { velocity: number('%', 0, 100, 0, 0), curve: choice(['linear', 'exponential']) },
    bounds: ({ input }) => ({
      out: scaled(input('in'), Math.min(1, Math.max(0, input('cv')[1] / 5))),
    }),
    closes: (port, { params, input }) => {
      if (port === 'in' && input('cv')[1] <= 0) {
        return { port: 'cv', gate: true, why: 'is never opened' };
      }
      return port === 'velocity' ? zero(params, 'velocity') : undefined;
    },
  },
  output: {
    family: 'output',
    summary:
      'The output sockets, behind their level. `in` goes to both sides. They carry no direct current.',
    equation:
      'u = in + left-in; left = level * (u - c), c following u with a corner at 3 Hz; right the same; out = (left + right)/2',
    source: 'A capacitor before the level: a first-order high-pass, 0.1 dB down at 20 Hz.',
    inputs: { in: 'audio', left: 'audio', right: 'audio' },
    outputs: { out: 'audio', left: 'audio', right: 'audio' },
    params: { level: number('x', 0, 2, 1) },
    voices: 'close',
    bounds: ({ input, number }) => {
      const side = (name: string): Interval =>
        scaled(addIntervals(input('in'), input(name)), number('level'));
      const [left, right] = [side('left'), side('right')];
      return { left, right, out: hull(left, right) };
    },
    closes: (_port, { params }) => zero(params, 'level'),
  },
} as const satisfies Record<string, ModuleSpec>;
