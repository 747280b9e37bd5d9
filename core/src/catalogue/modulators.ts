import { attackReached, gates } from '../pattern/gate-times';
import { underVoltage } from './by-voltage';
import { hull, isQuiet, ZERO } from './interval';
import { choice, type ModuleSpec, number } from './spec';

export const lfoShapes = [
  'triangle',
  'square',
  'ramp-up',
  'ramp-down',
  'sine',
  'random',
  'smooth',
] as const;

const envelopeMoves = underVoltage({
  attack: 'octaves',
  decay: 'octaves',
  sustain: 20,
  release: 'octaves',
  delay: 'octaves',
  hold: 'octaves',
  times: ['attack', 'decay', 'release'],
});
const bendMoves = underVoltage({ depth: 1.2, time: 'octaves' });
const lfoMoves = underVoltage({ width: 10, phase: 20 });

const time = (value: number, neutral?: number) => number('s', 0.0005, 60, value, neutral);

export const modulators = {
  envelope: {
    family: 'modulator',
    summary:
      'Envelope, 0..5 V: delay, attack, hold, decay, sustain, release; or without sustain; or in a circle.',
    equation:
      'exponential: attack heads for 1.3 and ends at 1, decay and release head for their goal and have 1 % of the way left after their time; linear: straight lines that end after their time. adsr holds sustain while the gate is open; ad and ahd run through whatever the gate does; cycle goes from the end of decay to attack while the gate is open. out = 5 V * level * (1 - velocity/100 * (1 - velocity-in/5))',
    inputs: {
      gate: 'gate',
      trigger: 'gate',
      velocity: 'modulation',
      ...envelopeMoves.inputs,
    },
    byVoltage: envelopeMoves.byVoltage,
    outputs: { out: 'modulation' },
    params: {
      attack: time(0.005, 0.0005),
      decay: time(0.3),
      sustain: number('%', 0, 100, 100, 100),
      release: time(0.1, 0.0005),
      delay: number('s', 0, 60, 0, 0),
      hold: number('s', 0, 60, 0, 0),
      mode: choice(['adsr', 'ad', 'ahd', 'cycle']),
      curve: choice(['exponential', 'linear']),
      retrigger: choice(['from-level', 'from-zero']),
      velocity: number('%', 0, 100, 0, 0),
    },
    bounds: ({ params, input, number, byKeys, notes }) => {
      if (isQuiet(input('gate'))) return { out: ZERO };
      // All the time that any key is held: what one stroke has reached, the next one may go on from.
      const held = byKeys('gate')
        ? gates(notes).reduce((sum, [start, end]) => sum + end - start, 0)
        : Infinity;
      const attack = number('attack');
      const most =
        params.curve === 'linear' ? Math.min(1, held / attack) : attackReached(attack, held);
      // Without sustain the attack goes on when the key is let go.
      return { out: [0, params.mode === 'adsr' ? 5 * most : 5] };
    },
  },
  bend: {
    family: 'modulator',
    summary: 'A quick drop of pitch at each stroke.',
    equation: 'out = depth/12 V at the trigger, 1 % of it left after time',
    inputs: { trigger: 'gate', ...bendMoves.inputs },
    byVoltage: bendMoves.byVoltage,
    outputs: { out: 'modulation' },
    params: { depth: number('st', -60, 60, 12, 0), time: time(0.05) },
    bounds: ({ input, number }) => {
      const depth = number('depth') / 12;
      return { out: isQuiet(input('trigger')) ? ZERO : hull(ZERO, [depth, depth]) };
    },
  },
  lfo: {
    family: 'modulator',
    summary: 'Low frequency oscillator, +-5 V: free or tied to the tempo, fading in or out.',
    equation:
      'cycle from its count of samples, not by adding up; tempo: one cycle in `beats` quarter notes; reset key: anew at each opening of the gate; run once: one cycle and then its end; depth 0 for delay s after the gate, then in over fade s, or from full out over fade s; random holds a level each cycle, smooth goes from one to the next along a raised cosine; width is how much of the cycle a square stands high and a triangle rises',
    inputs: { gate: 'gate', rate: 'modulation', ...lfoMoves.inputs },
    byVoltage: lfoMoves.byVoltage,
    outputs: { out: 'modulation' },
    params: {
      rate: number('Hz', 0.001, 2000, 1),
      shape: choice(lfoShapes),
      fade: number('s', 0, 60, 0, 0),
      'fade-kind': choice(['in', 'out']),
      delay: number('s', 0, 60, 0, 0),
      clock: choice(['free', 'tempo']),
      beats: number('beats', 0.0625, 256, 4),
      reset: choice(['free', 'key']),
      run: choice(['on', 'once']),
      phase: number('%', 0, 100, 0, 0),
      width: number('%', 1, 99, 50, 50),
    },
    bounds: () => ({ out: [-5, 5] }),
  },
} as const satisfies Record<string, ModuleSpec>;
