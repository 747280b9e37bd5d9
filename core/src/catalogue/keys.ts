import { AUDIO } from './interval';
import { keyBounds } from './key-bounds';
import type { Bounds } from './situation';
import { choice, type ModuleSpec, number, type SignalKind } from './spec';

const glide = {
  glide: number('s', 0, 20, 0, 0),
  'glide-kind': choice(['time', 'rate']),
  'glide-when': choice(['always', 'legato']),
};
const GLIDE =
  'glide time: 1 % of the way is left after `glide` s; glide rate: `glide` s an octave, in a straight line';

const KEYBOARD = {
  pitch1: 'pitch',
  pitch2: 'pitch',
  gate: 'gate',
  trigger: 'gate',
  velocity: 'modulation',
  pressure: 'modulation',
} as const;
const VOICES = {
  pitch: 'pitch',
  gate: 'gate',
  trigger: 'gate',
  velocity: 'modulation',
  pan: 'modulation',
  'any-gate': 'gate',
  'any-trigger': 'gate',
  pressure: 'modulation',
} as const;
const KEY_RANGE = {
  pitch: 'pitch',
  gate: 'gate',
  trigger: 'gate',
  velocity: 'modulation',
} as const;
const CHANNELS = Object.fromEntries(
  [1, 2, 3, 4].flatMap((c) => [
    [`pitch${c}`, 'pitch'],
    [`gate${c}`, 'gate'],
    [`trigger${c}`, 'gate'],
    [`velocity${c}`, 'modulation'],
  ]),
) as Record<`${'pitch' | 'gate' | 'trigger' | 'velocity'}${1 | 2 | 3 | 4}`, SignalKind>;

const played =
  (outputs: object): Bounds =>
  ({ params, notes }) =>
    keyBounds(Object.keys(outputs), notes, {
      shift: Number(params.tune ?? 0) / 1200,
      spread: Number(params.detune ?? 0) / 1200,
    });

export const keys = {
  keyboard: {
    family: 'keys',
    summary: 'Keys: pitch of two voices, gate, trigger at each new stroke, velocity, bender.',
    equation: `pitch = (note - 60)/12 + tune/1200 + bend-range/12 * bend; ${GLIDE}`,
    inputs: {},
    outputs: KEYBOARD,
    params: {
      rule: choice(['low', 'high', 'last', 'first', 'low-and-high']),
      strokes: choice(['each', 'legato']),
      ...glide,
      tune: number('cents', -1200, 1200, 0, 0),
      'bend-range': number('st', 0, 48, 2, 0),
    },
    bounds: played(KEYBOARD),
  },
  voices: {
    family: 'keys',
    summary:
      'Keys of an instrument with several voices, each with pitch, gate, trigger, velocity and place. Everything behind it runs once a voice, up to a voice mixer, an effect or the output.',
    equation: `voice v of n: pitch = (note - 60)/12 + tune/1200 + detune/1200 * (2v/(n-1) - 1) + bend; pan = 5 V * spread * (2v/(n-1) - 1). poly: the free voice that rested longest, else the oldest; paraphonic: the same, the gates of all that were struck up until the last key is let go; rotation: the next voice in turn; unison: all voices the last key; low-and-high: voices 1, 3, 5 the lowest, 2, 4, 6 the highest key, the last of an odd number none. One voice plays the last key, whatever the rule. strokes legato: no new trigger while another key is held, where voices play together, and of any-trigger. ${GLIDE}`,
    inputs: {},
    outputs: VOICES,
    params: {
      voices: number('', 1, 16, 8),
      rule: choice(['poly', 'paraphonic', 'rotation', 'unison', 'low-and-high']),
      strokes: choice(['each', 'legato']),
      detune: number('cents', 0, 100, 0, 0),
      spread: number('%', 0, 100, 0, 0),
      ...glide,
      tune: number('cents', -1200, 1200, 0, 0),
      'bend-range': number('st', 0, 48, 2, 0),
    },
    bounds: played(VOICES),
    voices: 'open',
    shared: ['any-gate', 'any-trigger', 'pressure'],
  },
  'voice-mixer': {
    family: 'level',
    summary: 'Adds the voices, each at its place between left and right.',
    equation:
      'left = sum of level * in * sqrt(2) * cos(a), right with sin(a), a = 45 degrees * (1 + pan/5); out = (left + right)/2',
    inputs: { in: 'audio', pan: 'modulation' },
    outputs: { out: 'audio', left: 'audio', right: 'audio' },
    params: { level: number('x', 0, 2, 1) },
    voices: 'close',
    silentWithout: ['in'],
  },
  'key-range': {
    family: 'keys',
    summary: 'Keys of one stretch of the keyboard: a pad, or what one part of a box answers to.',
    equation:
      'the last key struck from `from` to `to`; pitch = (note - 60 + transpose)/12 V; gate while one of them is held',
    inputs: {},
    outputs: KEY_RANGE,
    params: {
      from: number('MIDI', 0, 127, 0),
      to: number('MIDI', 0, 127, 127),
      transpose: number('st', -60, 60, 0, 0),
    },
    bounds: ({ number, notes }) => {
      const own = notes.filter((n) => n.note >= number('from') && n.note <= number('to'));
      return keyBounds(Object.keys(KEY_RANGE), own, { shift: number('transpose') / 12 });
    },
  },
  channels: {
    family: 'keys',
    summary: 'Keys shared out among four channels, each built in its own way.',
    equation:
      'rotation: the next channel in turn; each: the free one that rested longest, else the oldest; unison, or one channel: the last key, and the one before again when it is let go; pitch = (note - 60)/12 V',
    inputs: {},
    outputs: CHANNELS,
    params: {
      rule: choice(['rotation', 'each', 'unison']),
      channels: number('', 1, 4, 4),
    },
    bounds: played(CHANNELS),
  },
  controller: {
    family: 'keys',
    summary: 'A wheel, bender or pedal: 0..5 V over its travel; the bender -5..5 V.',
    equation:
      'out = position/20; while the player moves what it follows, its place instead of the recorded one',
    inputs: {},
    outputs: { out: 'modulation' },
    params: {
      position: number('%', 0, 100, 0, 0),
      follows: choice(['nothing', 'wheel', 'bend', 'pressure', 'pedal']),
    },
    bounds: ({ params }) => ({ out: params.follows === 'bend' ? AUDIO : [0, 5] }),
  },
  external: {
    family: 'source',
    summary: 'Sound from outside.',
    equation: 'left, right = level * 10 V * full scale; out = (left + right)/2',
    inputs: {},
    outputs: { out: 'audio', left: 'audio', right: 'audio' },
    params: { level: number('x', 0, 8, 1) },
    // Full scale is 10 V.
    bounds: ({ number }) => {
      const most = Math.min(20, 10 * number('level'));
      return { out: [-most, most], left: [-most, most], right: [-most, most] };
    },
    sounds: true,
  },
} as const satisfies Record<string, ModuleSpec>;
