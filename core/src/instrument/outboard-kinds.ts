import type { Outboard, OutboardControl } from './outboard';
import type { Taper } from './schema';

const linear = (lo: number, hi: number, unit: Taper['unit']): Taper => ({
  kind: 'linear',
  lo,
  hi,
  unit,
});
const ratio = (lo: number, hi: number, unit: Taper['unit']): Taper => ({
  kind: 'exponential',
  lo,
  hi,
  unit,
});
const knob = (
  name: string,
  turns: string | string[],
  taper: Taper,
  rest = 0.5,
  scale: [number, number] = [0, 10],
): OutboardControl => ({
  id: name.replaceAll(' ', '-'),
  name,
  turns: [turns].flat(),
  taper,
  rest,
  scale,
});
const noted = (name: string, rest = 0.5): OutboardControl => ({
  id: name.replaceAll(' ', '-'),
  name,
  turns: [],
  rest,
  scale: [0, 10],
});

const thing = (
  id: string,
  name: string,
  sort: Outboard['sort'],
  module: string | undefined,
  controls: OutboardControl[],
  params: Outboard['params'] = {},
): Outboard => ({ id: `out-${id}`, name, sort, ...(module ? { module } : {}), params, controls });

/** What people put behind an instrument, to begin from: names, scales and controls are then the patch's own. */
export const outboardKinds: readonly Outboard[] = [
  thing('overload', 'Overload pedal', 'pedal', 'drive', [
    knob('gain', 'gain', linear(0, 36, 'dB'), 0.4),
  ]),
  thing('echo', 'Echo pedal', 'pedal', 'delay', [
    knob('time', ['time-left', 'time-right'], ratio(0.02, 1.2, 's')),
    knob('repeats', 'feedback', linear(0, 110, '%'), 0.35),
    knob('mix', 'mix', linear(0, 60, '%'), 0.4),
  ]),
  thing('springs', 'Spring box', 'effect', 'spring', [
    knob('decay', 'decay', ratio(0.3, 6, 's')),
    knob('tone', 'damping', ratio(700, 8000, 'Hz'), 0.7),
    knob('mix', 'mix', linear(0, 80, '%'), 0.4),
  ]),
  thing('room', 'Reverb', 'effect', 'reverb', [
    knob('decay', 'decay', ratio(0.2, 20, 's'), 0.4),
    knob('before', 'pre-delay', linear(0, 0.2, 's'), 0.1),
    knob('dark', 'damping', ratio(20000, 600, 'Hz'), 0.4),
    knob('mix', 'mix', linear(0, 100, '%'), 0.3),
  ]),
  thing('swirl', 'Chorus pedal', 'pedal', 'chorus', [
    knob('rate', 'rate', ratio(0.05, 8, 'Hz'), 0.4),
    knob('depth', 'depth', linear(0, 100, '%')),
    knob('mix', 'mix', linear(0, 100, '%')),
  ]),
  thing('sweep', 'Phaser pedal', 'pedal', 'phaser', [
    knob('rate', 'rate', ratio(0.03, 6, 'Hz'), 0.3),
    knob('depth', 'depth', linear(0, 4, 'oct'), 0.4),
    knob('again', 'feedback', linear(0, 95, '%'), 0.3),
    knob('mix', 'mix', linear(0, 100, '%')),
  ]),
  thing('press', 'Compressor', 'effect', 'compressor', [
    knob('over', 'threshold', ratio(10, 0.05, 'V'), 0.4),
    knob('ratio', 'ratio', ratio(1, 20, 'x'), 0.45),
    knob('attack', 'attack', ratio(0.0005, 0.2, 's'), 0.5),
    knob('release', 'release', ratio(0.02, 2, 's'), 0.5),
    knob('lift', 'makeup', linear(0, 24, 'dB'), 0.2),
  ]),
  thing('strip', 'Desk channel', 'desk', 'equaliser', [
    knob('lows', 'low', linear(-15, 15, 'dB'), 0.5, [-15, 15]),
    knob('mids', 'bell', linear(-15, 15, 'dB'), 0.5, [-15, 15]),
    knob('mids at', 'bell-centre', ratio(150, 8000, 'Hz'), 0.5),
    knob('highs', 'high', linear(-15, 15, 'dB'), 0.5, [-15, 15]),
    noted('fader', 0.75),
  ]),
  thing('amp', 'Amplifier', 'amplifier', 'drive', [
    knob('gain', 'gain', linear(0, 30, 'dB'), 0.3),
    noted('lows'),
    noted('highs'),
    noted('loud', 0.4),
  ]),
  thing('speaker', 'Speaker and microphone', 'microphone', 'speaker', [
    knob('body', 'body', ratio(200, 45, 'Hz'), 0.6),
    knob('edge', 'edge', ratio(2000, 8000, 'Hz'), 0.5),
    knob('bite', 'bite', linear(-3, 12, 'dB'), 0.5),
  ]),
  thing(
    'wah',
    'Filter pedal',
    'pedal',
    'state-variable',
    [
      knob('foot', 'cutoff', ratio(300, 3000, 'Hz'), 0.5),
      knob('peak', 'resonance', linear(0, 0.9, ''), 0.6),
    ],
    { mode: 'band' },
  ),
  thing('other', 'Something else', 'other', undefined, [noted('one'), noted('two')]),
];
