/**
 * The catalogue of modules: what ports and parameters each kind has. Voltages are the circuit's unit: audio about
 * +-5 V, envelopes 0..5 V, LFOs +-5 V, gates 0/5 V, pitch 1 V an octave with 0 V at C4. Several wires into one port add.
 */
export type SignalKind = 'audio' | 'pitch' | 'modulation' | 'gate' | 'sync';

export interface NumberParam {
  kind: 'number';
  unit: string;
  lo: number;
  hi: number;
  default: number;
}
export interface ChoiceParam {
  kind: 'choice';
  choices: readonly string[];
  default: string;
}
export type ParamSpec = NumberParam | ChoiceParam;

export interface ModuleSpec {
  summary: string;
  inputs: Record<string, SignalKind>;
  outputs: Record<string, SignalKind>;
  params: Record<string, ParamSpec>;
}

const number = (unit: string, lo: number, hi: number, value: number): NumberParam => ({
  kind: 'number',
  unit,
  lo,
  hi,
  default: value,
});
const choice = (choices: readonly string[], value = choices[0]!): ChoiceParam => ({
  kind: 'choice',
  choices,
  default: value,
});

export const oscillatorWaves = ['saw', 'pulse', 'triangle', 'sine', 'noise'] as const;
export const lfoShapes = ['triangle', 'square', 'ramp-up', 'ramp-down', 'sine', 'random'] as const;

const lowPass: Omit<ModuleSpec, 'summary'> = {
  // `cutoff` moves the corner by one octave a volt.
  inputs: { in: 'audio', cutoff: 'modulation' },
  // `hz` is a reading, not a voltage: the cutoff reached, in Hz.
  outputs: { out: 'audio', hz: 'modulation' },
  params: { cutoff: number('Hz', 5, 20000, 1000), resonance: number('', 0, 1, 0) },
};

export const catalogue = {
  keyboard: {
    summary: 'Keys: pitch of two voices, gate, trigger at each new stroke, velocity 0..5 V.',
    inputs: {},
    outputs: {
      pitch1: 'pitch',
      pitch2: 'pitch',
      gate: 'gate',
      trigger: 'gate',
      velocity: 'modulation',
    },
    params: {
      rule: choice(['low', 'high', 'last', 'first', 'low-and-high']),
      strokes: choice(['each', 'legato']),
      glide: number('s', 0, 20, 0),
      tune: number('cents', -1200, 1200, 0),
    },
  },
  oscillator: {
    summary:
      'Oscillator. pitch and mod: 1 V an octave; width: 10 % a volt; sync: starts anew with another.',
    inputs: { pitch: 'pitch', mod: 'modulation', width: 'modulation', sync: 'sync' },
    outputs: { out: 'audio', sync: 'sync' },
    params: {
      wave: choice(oscillatorWaves),
      octave: number('st', -48, 48, 0),
      interval: number('st', -48, 48, 0),
      fine: number('cents', -1200, 1200, 0),
      width: number('%', 0, 100, 50),
      sync: choice(['off', 'on']),
    },
  },
  noise: {
    summary: 'White noise.',
    inputs: {},
    outputs: { out: 'audio' },
    params: {},
  },
  ring: {
    summary: 'Ring modulator: a times b over 5 V.',
    inputs: { a: 'audio', b: 'audio' },
    outputs: { out: 'audio' },
    params: {},
  },
  mixer: {
    summary: 'Four channels added, each with its gain.',
    inputs: { in1: 'audio', in2: 'audio', in3: 'audio', in4: 'audio' },
    outputs: { out: 'audio' },
    params: {
      gain1: number('x', 0, 2, 0),
      gain2: number('x', 0, 2, 0),
      gain3: number('x', 0, 2, 0),
      gain4: number('x', 0, 2, 0),
    },
  },
  drive: {
    summary:
      'Soft overload: gain into a saturating curve with a ceiling of 8 V; untouched with no gain.',
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { gain: number('dB', 0, 40, 0) },
  },
  'low-pass-12': { summary: 'Two-pole state variable low-pass, 12 dB an octave.', ...lowPass },
  'low-pass-24': {
    summary: 'Four-pole ladder low-pass, 24 dB an octave, whistles by itself near full resonance.',
    ...lowPass,
  },
  'high-pass-12': {
    summary: 'Two-pole high-pass without resonance.',
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { cutoff: number('Hz', 5, 20000, 5) },
  },
  envelope: {
    summary: 'ADSR with exponential segments, 0..5 V.',
    inputs: { gate: 'gate', trigger: 'gate' },
    outputs: { out: 'modulation' },
    params: {
      attack: number('s', 0.0005, 60, 0.005),
      decay: number('s', 0.0005, 60, 0.3),
      sustain: number('%', 0, 100, 100),
      release: number('s', 0.0005, 60, 0.1),
    },
  },
  lfo: {
    summary: 'Low frequency oscillator, +-5 V, free running, fading in after each stroke.',
    inputs: { gate: 'gate' },
    outputs: { out: 'modulation' },
    params: {
      rate: number('Hz', 0.001, 100, 1),
      shape: choice(lfoShapes),
      fade: number('s', 0, 60, 0),
    },
  },
  attenuator: {
    summary: 'Scales a signal; a negative gain inverts it.',
    inputs: { in: 'modulation' },
    outputs: { out: 'modulation' },
    params: { gain: number('x', -20, 20, 0) },
  },
  amplifier: {
    summary:
      'Linear voltage controlled amplifier, full at 5 V; velocity takes away up to its depth.',
    inputs: { in: 'audio', cv: 'modulation', velocity: 'modulation' },
    outputs: { out: 'audio' },
    params: { velocity: number('%', 0, 100, 0) },
  },
  lever: {
    summary: 'A wheel or pedal: 0..5 V over its travel.',
    inputs: {},
    outputs: { out: 'modulation' },
    params: { position: number('%', 0, 100, 0) },
  },
  output: {
    summary: 'The output socket, behind its level.',
    inputs: { in: 'audio' },
    outputs: { out: 'audio' },
    params: { level: number('x', 0, 2, 1) },
  },
} as const satisfies Record<string, ModuleSpec>;

export type ModuleKind = keyof typeof catalogue;
export const isModuleKind = (kind: string): kind is ModuleKind => Object.hasOwn(catalogue, kind);
export const moduleSpec = (kind: ModuleKind): ModuleSpec => catalogue[kind];
