import FFT from 'fft.js';
import { compile } from '../circuit';
import type { Instrument } from '../instrument';
import { withFixed, withModule, withWire } from '../modelling';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import type { ModuleKind } from '../catalogue';
import { render } from '../sound';
import { seededRandom } from '../testing/random';
import { ladder, twoPole, valueOf } from '../theory/prototypes';
import { measurableOf, type Measurable, measureValue, type Played } from './taper-value';

const RATE = 48000;

type Wires = Record<string, string>;
/** A circuit of a few modules, wired, with values where no control turns them. */
function circuit(
  kinds: ModuleKind[],
  wires: Wires,
  fixed: Record<string, Record<string, number | string>> = {},
): Instrument {
  const text = 'Own Thing\nOne:\nlevel 0..10\n';
  let made = instrumentOf(readOutline(text).outline, text);
  for (const kind of kinds) made = withModule(made, kind).instrument;
  for (const [from, to] of Object.entries(wires)) made = withWire(made, { from, to });
  for (const [module, params] of Object.entries(fixed))
    for (const [param, value] of Object.entries(params))
      made = withFixed(made, module, param, value);
  return made;
}

function measured(
  what: Measurable,
  instrument: Instrument,
  played: Played,
  { seconds = 2, held = seconds }: { seconds?: number; held?: number } = {},
): number {
  const graph = compile(instrument, { settings: {}, cables: [] });
  // A recording begins a little before the note.
  const notes = [{ start: 0.2, duration: held, note: 57, velocity: 100 }];
  const { samples } = render(graph, { sampleRate: RATE, seconds: seconds + 0.4, notes });
  const found = measureValue(what, [samples.map((v) => v * 0.1)], RATE, played);
  if (!found.ok) throw new Error(found.message);
  return found.value;
}

const cents = (a: number, b: number): number => Math.abs(1200 * Math.log2(a / b));

describe('a cutoff off a recording', () => {
  const noisy = (kind: ModuleKind, cutoff: number): Instrument =>
    circuit(
      ['keyboard', 'noise', kind],
      { 'noise.out': `${kind}.in`, [`${kind}.out`]: 'output.in' },
      { [kind]: { cutoff } },
    );

  it.each([
    ['low-pass-12', 300],
    ['low-pass-12', 2000],
    ['low-pass-18', 1000],
    ['low-pass-24', 400],
    ['low-pass-24', 3000],
    ['diode', 1200],
  ] as const)('of noise through %s at %i Hz is met within a semitone', (kind, cutoff) => {
    expect(cents(measured('cutoff', noisy(kind, cutoff), { kind }), cutoff)).toBeLessThan(100);
  });

  it.each([
    ['low-pass-12', twoPole, 5000],
    ['low-pass-12', twoPole, 12000],
    ['low-pass-24', ladder, 8000],
  ] as const)(
    'of noise with the response of %s itself, %i Hz, within 50 cents',
    (kind, prototype, cutoff) => {
      // Made in the frequency domain: no filter on a grid of samples bends it near its end.
      const size = 2 ** 17;
      const fft = new FFT(size);
      const bins = fft.createComplexArray();
      const random = seededRandom(5);
      const power = prototype.power(prototype.free);
      for (let i = 1; i < size / 2; i++) {
        const hz = (i * RATE) / size;
        const [level, turn] = [
          1 / Math.sqrt(valueOf(power, (hz / cutoff) ** 2)),
          2 * Math.PI * random(),
        ];
        bins[2 * i] = level * Math.cos(turn);
        bins[2 * i + 1] = level * Math.sin(turn);
      }
      fft.completeSpectrum(bins);
      const out = fft.createComplexArray();
      fft.inverseTransform(out, bins);
      const samples = Float32Array.from({ length: size }, (_, i) => 100 * out[2 * i]!);
      const found = measureValue('cutoff', [samples], RATE, { kind });
      expect(found.ok && cents(found.value, cutoff)).toBeLessThan(50);
    },
  );

  it.each([
    ['low-pass-24', 150],
    ['low-pass-24', 4000],
    ['diode', 900],
  ] as const)('of a whistle of %s at %i Hz is met within 30 cents', (kind, cutoff) => {
    const whistling = circuit(
      ['keyboard', 'noise', kind],
      { 'noise.out': `${kind}.in`, [`${kind}.out`]: 'output.in' },
      { [kind]: { cutoff, resonance: 1 }, noise: {} },
    );
    const quiet = {
      ...whistling,
      circuit: {
        ...whistling.circuit,
        modules: whistling.circuit.modules.filter((m) => m.kind !== 'noise'),
        wires: whistling.circuit.wires.filter((w) => !w.from.startsWith('noise')),
      },
    };
    expect(cents(measured('cutoff', quiet, { kind }), cutoff)).toBeLessThan(30);
  });

  it('is not made up where there is neither', () => {
    const saw = circuit(
      ['keyboard', 'oscillator'],
      { 'keyboard.pitch1': 'oscillator.pitch', 'oscillator.out': 'output.in' },
      { oscillator: { wave: 'saw' } },
    );
    const two = circuit(['keyboard', 'oscillator', 'noise'], {
      'oscillator.out': 'output.in',
      'noise.out': 'output.in',
    });
    expect(() => measured('cutoff', two, { kind: 'low-pass-24' })).toThrow('neither a whistle');
    // A tone that repeats exactly cannot be told from a whistle: it is measured as one.
    expect(measured('cutoff', saw, { kind: 'low-pass-24' })).toBeCloseTo(220, 0);
    const silence = measureValue('cutoff', [new Float32Array(RATE)], RATE, { kind: 'diode' });
    expect(silence).toMatchObject({ ok: false, message: expect.stringContaining('hardly any') });
  });
});

describe('times off a recording', () => {
  const shaped = (params: Record<string, number | string>): Instrument =>
    circuit(
      ['keyboard', 'oscillator', 'envelope', 'amplifier'],
      {
        'keyboard.pitch1': 'oscillator.pitch',
        'keyboard.gate': 'envelope.gate',
        'envelope.out': 'amplifier.cv',
        'oscillator.out': 'amplifier.in',
        'amplifier.out': 'output.in',
      },
      { envelope: params },
    );
  const kind = 'envelope' as const;

  it.each([
    ['exponential', 0.05],
    ['exponential', 0.8],
    ['linear', 0.3],
  ] as const)('give an %s attack of %d s within 8 %%', (curve, attack) => {
    const linear = curve === 'linear';
    const found = measured('attack', shaped({ attack, curve }), { kind, linear });
    expect(Math.abs(found / attack - 1)).toBeLessThan(0.08);
  });

  it.each([
    ['exponential', 0.2],
    ['exponential', 1.5],
    ['linear', 0.6],
  ] as const)('give an %s decay and release of %d s within 6 %% and a window', (curve, time) => {
    const linear = curve === 'linear';
    const falls = shaped({ attack: 0.0005, decay: time, sustain: 0, release: 0.1, curve });
    const decay = measured(
      'decay',
      falls,
      { kind, linear, held: 2.2 },
      { seconds: 2.4, held: 2.2 },
    );
    expect(Math.abs(decay - time)).toBeLessThan(0.06 * time + 0.009);
    const rings = shaped({ attack: 0.0005, release: time, curve });
    const release = measured(
      'release',
      rings,
      { kind, linear, held: 0.5 },
      { seconds: 3, held: 0.5 },
    );
    expect(Math.abs(release - time)).toBeLessThan(0.06 * time + 0.009);
  });

  it('give the sustain within two hundredths of the top', () => {
    const stays = shaped({ decay: 1, sustain: 40 });
    expect(Math.abs(measured('sustain', stays, { kind, held: 2 }) - 40)).toBeLessThan(2);
  });

  it('say what is missing', () => {
    const one = shaped({ release: 3 });
    const wanted =
      (played: Played, more = {}): (() => number) =>
      () =>
        measured('release', one, played, more);
    expect(wanted({ kind })).toThrow('for how long the key was held');
    expect(wanted({ kind, held: 0.5 }, { held: 0.5, seconds: 1 })).toThrow(
      'longer than the recording',
    );
    expect(() => measured('decay', shaped({}), { kind, held: 2 })).toThrow('does not come down');
  });
});

describe('rate and pitch off a recording', () => {
  it('give the rate of an LFO that moves the pitch, within 2 %', () => {
    for (const rate of [0.8, 5, 12]) {
      const moved = circuit(
        ['keyboard', 'oscillator', 'lfo', 'attenuator'],
        {
          'keyboard.pitch1': 'oscillator.pitch',
          'lfo.out': 'attenuator.in',
          'attenuator.out': 'oscillator.mod',
          'oscillator.out': 'output.in',
        },
        { lfo: { rate, shape: 'sine' }, attenuator: { gain: 0.01 } },
      );
      const found = measured('rate', moved, { kind: 'lfo' }, { seconds: 4 });
      expect(Math.abs(found / rate - 1)).toBeLessThan(0.02);
    }
  });

  it('give the tuning against the key, within 2 cents', () => {
    for (const tune of [-7, 0, 12]) {
      const tuned = circuit(
        ['keyboard', 'oscillator'],
        { 'keyboard.pitch1': 'oscillator.pitch', 'oscillator.out': 'output.in' },
        { oscillator: { interval: tune } },
      );
      const found = measured('pitch', tuned, { kind: 'oscillator', note: 57 });
      expect(Math.abs(found - 100 * tune)).toBeLessThan(2);
    }
  });

  it('are known for what they are', () => {
    expect(measurableOf('low-pass-24', 'cutoff', 'Hz')).toBe('cutoff');
    expect(measurableOf('envelope', 'decay', 's')).toBe('decay');
    expect(measurableOf('oscillator', 'interval', 'st')).toBe('pitch');
    expect(measurableOf('mixer', 'gain1', 'x')).toBeUndefined();
    expect(measurableOf('bank', 'cutoff', 'Hz')).toBeUndefined();
  });
});
