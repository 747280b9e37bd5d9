import { underVoltage } from './by-voltage';
import { chordTypes } from '../theory/chord';
import { AUDIO, isQuiet, ZERO } from './interval';
import { zero } from './situation';
import { choice, type ModuleSpec, number } from './spec';

export const oscillatorWaves = ['saw', 'pulse', 'triangle', 'sine', 'noise'] as const;

const tuning = {
  octave: number('st', -48, 48, 0),
  interval: number('st', -48, 48, 0),
  fine: number('cents', -1200, 1200, 0, 0),
  footage: number('ft', 0.25, 64, 8),
  drift: number('cents', 0, 100, 0, 0),
};
const PITCH =
  'f = 261.6256 Hz * 2^(pitch + mod + (octave + interval)/12 + fine/1200 + log2(8/footage) + drift/1200 * slow random walk in -1..1)';
const STEPS =
  'E. Brandt, Hard Sync Without Aliasing, ICMC 2001: band-limited steps and corners, here from a linear-phase table (24 zero crossings a side, Kaiser window, beta 8, corner 0.85 of Nyquist, 256 points a sample). Late by 24 samples.';
const OVER =
  'computed at four times the sample rate, 97-tap linear-phase filter. Late by 12 samples.';
const inputs = { pitch: 'pitch', mod: 'modulation' } as const;
const startMoves = underVoltage({ start: 20 });
const stackMoves = underVoltage({ detune: 20, mix: 20 });
const chordMoves = underVoltage({ inversion: 1.2 });
const foldMoves = underVoltage({ symmetry: 20 });
const operatorMoves = underVoltage({ feedback: 20 });

export const oscillators = {
  oscillator: {
    family: 'source',
    summary:
      'Oscillator. pitch and mod: 1 V an octave, at audio rate too; fm: linear; width: 10 % a volt; sync: starts anew with another.',
    equation: `${PITCH}, times 1 + fm-depth/100 * fm/5 where that is above 0, else standing still; saw 5 V * (2p - 1); pulse +5 V while p < width; triangle from -5 V at p = 0 to 5 V at 0.5; sine 5 V * sin(2 pi p); noise uniform +-5 V. Sync on: p = 0 where the other cycle begins; soft: only where p is within soft/100 of its end; mirror: there p becomes 1 - p, of a sine 1/2 - p, so that what rose falls, and all stands an octave under the master`,
    source: STEPS,
    inputs: { ...inputs, fm: 'audio', width: 'modulation', sync: 'sync' },
    outputs: { out: 'audio', sync: 'sync' },
    params: {
      wave: choice(oscillatorWaves),
      ...tuning,
      width: number('%', 0, 100, 50, 50),
      sync: choice(['off', 'on', 'soft', 'mirror']),
      soft: number('%', 0, 100, 30),
      'fm-depth': number('%', 0, 1000, 0, 0),
    },
    bounds: () => ({ out: AUDIO, sync: [-1, 1] }),
    closes: (port, { params }) => {
      if (port === 'fm') return zero(params, 'fm-depth');
      if (port === 'width' && params.wave !== 'pulse') {
        return { param: 'wave', gate: false, why: 'has a width only as pulse' };
      }
      return port === 'sync' && params.sync === 'off'
        ? { param: 'sync', gate: false, why: 'is not synced' }
        : undefined;
    },
  },
  'saw-stack': {
    family: 'source',
    summary: 'Seven saws, three to each side of the middle one.',
    equation: `${PITCH}; sides at detune * (0.11, 0.63, 1) cents up and down; out = 5 V * (middle * (1 - 0.6 mix) + sides * 0.45 mix), mix = mix/100; phases begin at random`,
    source: STEPS,
    inputs: { ...inputs, ...stackMoves.inputs },
    byVoltage: stackMoves.byVoltage,
    outputs: { out: 'audio' },
    params: { ...tuning, detune: number('cents', 0, 100, 20, 0), mix: number('%', 0, 100, 70, 0) },
    sounds: true,
  },
  chord: {
    family: 'source',
    summary: 'A chord of two to six notes from one key.',
    equation: `${PITCH}; one oscillator for each note of the chord type, the lowest note an octave up \`inversion\` times, one after the other: beyond the number of notes it climbs on; each at 5 V / number of notes`,
    source: STEPS,
    inputs: { ...inputs, ...chordMoves.inputs },
    byVoltage: chordMoves.byVoltage,
    outputs: { out: 'audio' },
    params: {
      type: choice(Object.keys(chordTypes)),
      inversion: number('', 0, 12, 0, 0),
      wave: choice(['saw', 'square']),
      ...tuning,
    },
    sounds: true,
  },
  'fold-oscillator': {
    family: 'source',
    summary: 'A sine folded back on itself.',
    equation: `${PITCH}; out = 5 V * sin(pi/2 * (1 + fold + fold-in) * sin(2 pi p) + pi/2 * symmetry/100)`,
    source: OVER,
    inputs: { ...inputs, fold: 'modulation', ...foldMoves.inputs },
    byVoltage: foldMoves.byVoltage,
    outputs: { out: 'audio' },
    params: {
      ...tuning,
      fold: number('', 0, 8, 0, 0),
      symmetry: number('%', -100, 100, 0, 0),
    },
    sounds: true,
  },
  'two-operator': {
    family: 'source',
    summary: 'A sine whose phase a second one moves.',
    equation: `${PITCH}; out = 5 V * sin(2 pi p + (index + index-in) * m), m = sin(2 pi q + feedback/100 * pi/2 * mean of its last two values), q at ratio times f`,
    source: `J. Chowning, The Synthesis of Complex Audio Spectra by Means of Frequency Modulation, JAES 21 (1973), in its phase form; ${OVER}`,
    inputs: { ...inputs, index: 'modulation', ...operatorMoves.inputs },
    byVoltage: operatorMoves.byVoltage,
    outputs: { out: 'audio' },
    params: {
      ...tuning,
      ratio: number('', 0.125, 32, 1),
      index: number('', 0, 30, 1, 0),
      feedback: number('%', 0, 100, 0, 0),
    },
    sounds: true,
  },
  sub: {
    family: 'source',
    summary: 'A square one or two octaves below the oscillator whose sync comes in.',
    equation: 'out = +-5 V, turned over at every (every second) beginning of a cycle',
    source: STEPS,
    inputs: { sync: 'sync' },
    outputs: { out: 'audio' },
    params: { octave: choice(['one', 'two']) },
  },
  noise: {
    family: 'source',
    summary: 'Noise, white or pink.',
    equation:
      'white: uniform +-5 V; pink: white through first-order sections, a pole each octave from 10 Hz and a zero half an octave above it, made up to the same power. With something in trigger it is a recording: at each stroke it begins anew at start/100 s of one and the same noise',
    source:
      'Interlaced poles and zeros as an approximation of a fractional slope: M. S. Keshner, 1/f Noise, Proc. IEEE 70 (1982)',
    inputs: { trigger: 'gate', ...startMoves.inputs },
    byVoltage: startMoves.byVoltage,
    outputs: { out: 'audio' },
    params: { colour: choice(['white', 'pink']), start: number('%', 0, 100, 0, 0) },
    sounds: true,
    bounds: () => ({ out: AUDIO }),
  },
  ring: {
    family: 'source',
    summary: 'Ring or amplitude modulator.',
    equation: 'ring: out = a * b/5; amplitude: out = a * (1 + b/5)/2',
    source: 'Computed at twice the sample rate: a product reaches as high as both together.',
    inputs: { a: 'audio', b: 'audio' },
    outputs: { out: 'audio' },
    params: { kind: choice(['ring', 'amplitude']) },
    bounds: ({ params, input }) => {
      // The amplitude kind lets half of a through when b rests.
      const quiet = isQuiet(input('a')) || (params.kind === 'ring' && isQuiet(input('b')));
      return { out: quiet ? ZERO : AUDIO };
    },
    closes: (port, { params, input }) => {
      const other = port === 'a' ? 'b' : 'a';
      return isQuiet(input(other)) && (other === 'a' || params.kind === 'ring')
        ? { port: other, gate: true, why: 'has only one input' }
        : undefined;
    },
  },
} as const satisfies Record<string, ModuleSpec>;
