import { checkup } from '../../checkup';
import type { Instrument } from '../../instrument/schema';
import { instrumentOf } from '../../outline/instrument';
import { readOutline } from '../../outline/read';
import { blankPatch } from '../../patch/create';
import type { Patch } from '../../patch/schema';
import { held, record } from '../../testing/bench';
import { compile } from '../compile';

const words = 'Heron by Own\n\nFilter:\ncutoff 20..20k Hz';
const bare = instrumentOf(readOutline(words).outline, words);

/** One oscillator through a filter, an amplifier and nothing else. */
const through = (
  kind: string,
  params: Record<string, string | number>,
  param: string,
): Instrument => ({
  ...bare,
  controls: bare.controls.map((c) => ({
    ...c,
    bindings: [
      { module: 'f', param, taper: { kind: 'exponential', lo: 20, hi: 20000, unit: 'Hz' } },
    ],
  })) as Instrument['controls'],
  circuit: {
    modules: [
      { id: 'keys', kind: 'keyboard', params: {} },
      { id: 'o', kind: 'oscillator', params: { octave: -12 } },
      { id: 'f', kind, name: 'filter', params },
      { id: 'env', kind: 'envelope', params: { sustain: 100 } },
      { id: 'a', kind: 'amplifier', params: {} },
      { id: 'out', kind: 'output', params: {} },
    ],
    wires: [
      { from: 'keys.pitch1', to: 'o.pitch' },
      { from: 'o.out', to: 'f.in' },
      { from: 'f.out', to: 'a.in' },
      { from: 'keys.gate', to: 'env.gate' },
      { from: 'env.out', to: 'a.cv' },
      { from: 'a.out', to: 'out.in' },
    ],
  },
});

const at = (instrument: Instrument, value: number): Patch => ({
  ...blankPatch(instrument, 'P'),
  phrase: [{ beat: 0, length: 4, note: 60, velocity: 100 }],
  settings: { 'filter-cutoff': { kind: 'set', value } },
});
/** dB that the filter takes of what comes in, as it is rendered. */
const taken = (instrument: Instrument, patch: Patch): number => {
  const level = (port: string): number => {
    const sound = record(compile(instrument, patch), port, 1, { notes: [held(60, 9)] });
    return 10 * Math.log10(sound.subarray(24000).reduce((sum, v) => sum + v * v, 1e-12));
  };
  return level('o.out') - level('f.out');
};
const told = (instrument: Instrument, patch: Patch) =>
  checkup(instrument, patch).find((f) => f.id === 'filter-closed:f');

describe('a filter that lets nothing through', () => {
  it.each([
    ['high-pass-12', {}, 'cutoff', 1],
    ['state-variable', { mode: 'high' }, 'cutoff', 1],
    ['state-variable', { mode: 'band' }, 'cutoff', 1],
    ['state-variable', { mode: 'low' }, 'cutoff', 0],
    ['filter-pair', { mode1: 'high', cutoff2: 20000 }, 'cutoff1', 1],
    ['filter-pair', { mode1: 'high', mode2: 'low', cutoff2: 100 }, 'cutoff1', 0.8],
  ] as const)('is told: %s %j', (kind, params, param, value) => {
    const instrument = through(kind, params, param);
    const patch = at(instrument, value);
    const finding = told(instrument, patch)!;
    expect(finding).toMatchObject({ controls: ['filter-cutoff'] });
    const said = Number(/about (\d+) dB/.exec(finding.why)![1]);
    // Slopes are straight lines in the estimate, and bend towards half the sample rate in the sound.
    expect(Math.abs(taken(instrument, patch) - said)).toBeLessThan(8);
    // The mend is held against the sound.
    const mended = {
      ...patch,
      settings: { ...patch.settings, ...finding.mend!.settings },
    } as Patch;
    expect(taken(instrument, mended)).toBeLessThan(taken(instrument, patch) - 10);
    expect(told(instrument, mended)).toBeUndefined();
  });

  it.each([
    ['high-pass-12', {}, 'cutoff', 0.4],
    // Thin, and wanted so often enough: a tenth of the power is still there.
    ['high-pass-12', {}, 'cutoff', 0.6],
    ['state-variable', { mode: 'band' }, 'cutoff', 0.4],
    ['state-variable', { mode: 'notch' }, 'cutoff', 1],
    ['filter-pair', { mode1: 'high', routing: 'parallel', cutoff2: 20000 }, 'cutoff1', 1],
  ] as const)(
    'is not told where it lets something through: %s %j',
    (kind, params, param, value) => {
      const instrument = through(kind, params, param);
      const patch = at(instrument, value);
      expect(told(instrument, patch)).toBeUndefined();
      expect(taken(instrument, patch)).toBeLessThan(15);
    },
  );
});
