import { readdirSync, readFileSync } from 'node:fs';
import { compile } from '../circuit/compile';
import { checkup } from '../checkup';
import { checkInstrument } from '../instrument/check';
import type { ContinuousControl } from '../instrument/schema';
import { taperBounds, taperValue } from '../reading/taper';
import { blankPatch, initPositions, settingsAt } from '../patch/create';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import { travelAt } from '../outline/scale';
import { withPlainInit } from './plain';
import { proposeBindings, type Skeleton, skeletonSchema, withSkeleton } from './skeleton';

const folder = new URL('../../../library/skeletons/', import.meta.url);
const skeletons = readdirSync(folder)
  .map((file) => skeletonSchema.parse(JSON.parse(readFileSync(new URL(file, folder), 'utf8'))))
  .filter((s) => s.module === undefined);
const of = (id: string): Skeleton => skeletons.find((s) => s.id === id)!;
const walk = readFileSync(new URL('../../../docs/describing.md', import.meta.url), 'utf8');
const text = /```text\n([\s\S]*?)```/.exec(walk)![1]!.trim();
const bittern = instrumentOf(readOutline(text).outline, text);
const told = (id: string, text = bittern) =>
  Object.fromEntries(
    proposeBindings(text, of(id)).map((p) => [p.control, `${p.module}.${p.param}`]),
  );

describe('a circuit to begin from', () => {
  it.each(skeletons.map((s) => [s.id, s] as const))(
    '%s is sound, bound to a panel or not',
    (_, s) => {
      expect(checkInstrument(withSkeleton(bittern, s, []))).toEqual([]);
      expect(checkInstrument(withSkeleton(bittern, s, proposeBindings(bittern, s)))).toEqual([]);
    },
  );

  const comesIn = (s: Skeleton): boolean => s.circuit.modules.some((m) => m.kind === 'external');
  const byItself = skeletons.filter((s) => !comesIn(s));
  it.each(byItself.map((s) => [s.id, s] as const))('%s is heard', (_, s) => {
    const made = withSkeleton(bittern, s, proposeBindings(bittern, s));
    const patch = {
      ...blankPatch(made, 'P'),
      settings: {
        'output-volume': { kind: 'set', value: 0.8 } as const,
        'mixer-osc-1': { kind: 'set', value: 0.8 } as const,
        'filter-cutoff': { kind: 'set', value: 0.7 } as const,
        'loudness-envelope-sustain': { kind: 'set', value: 0.8 } as const,
      },
    };
    expect(compile(made, patch).nodes.length).toBeGreaterThan(5);
    expect(checkup(made, patch).filter((f) => f.severity === 'silent')).toEqual([]);
  });

  it.each(byItself.map((s) => [s.id, s] as const))(
    '%s sounds from the plain patch that it brings, each control where the circuit has it',
    (_, s) => {
      const made = withPlainInit(withSkeleton(bittern, s, proposeBindings(bittern, s)));
      expect(checkInstrument(made)).toEqual([]);
      const plain = { ...blankPatch(made, 'P'), settings: settingsAt(initPositions(made)) };
      expect(checkup(made, plain).filter((f) => f.severity === 'silent')).toEqual([]);
      // Whatever a control can reach stands as it does in the bare circuit.
      const [bound, bare] = [compile(made, plain), compile(withSkeleton(bittern, s, []), plain)];
      for (const control of made.controls.filter((c): c is ContinuousControl => 'sweep' in c)) {
        for (const { module, param, taper } of control.bindings) {
          const [now, own] = [bound, bare].map((graph) =>
            Number(graph.nodes.find((n) => n.id === module)!.params[param]),
          ) as [number, number];
          const [lo, hi] = taperBounds(taper);
          expect(Math.abs(now - Math.min(hi, Math.max(lo, own)))).toBeLessThan(1e-3 * (hi - lo));
        }
      }
      // What was said before stays.
      expect(withPlainInit(made).init).toBe(made.init);
    },
  );

  it.each([
    [
      'drum-voices',
      `Box\n\nKick:\ntune\ndecay 0..10\nbend 0..10\nlevel 0..10\nSnare:\ntune\nsnap 0..10\ndecay 0..10\nlevel 0..10\nHat:\ncolour 0..10\ndecay 0..10\nlevel 0..10\nTom:\ntune\ndecay 0..10\nlevel 0..10\nOut:\noverload 0..10\nvolume 0..10`,
      16,
    ],
    [
      'four-channels',
      `Four\n\nChannel 1:\nwave saw/pulse\ncutoff 0..10\ndecay 0..10\nlevel 0..10\nChannel 2: as Channel 1\nChannel 3: as Channel 1\nChannel 4: as Channel 1\nOut:\nvolume 0..10`,
      17,
    ],
    [
      'bass-line',
      `Eel\n\nControls:\ntuning -1..1\nwave saw/square\ncutoff 0..10\nresonance 0..10\nenv mod 0..10\ndecay 0..10\naccent 0..10\nslide 0..10\noverdrive 0..10\nvolume 0..10`,
      10,
    ],
    [
      'effects-box',
      `Fog\n\nInput:\ninput gain 0..10\ndrive 0..10\nChorus:\nrate 0..10\ndepth 0..10\nmix 0..10\nEcho:\ntime 0..10\nrepeats 0..10\nlevel 0..10\nReverb:\ndecay 0..10\nmix 0..10\nOut:\nlevel 0..10`,
      11,
    ],
    [
      'two-oscillators-two-filters',
      `Two\n\nFilter 1:\ncutoff 0..10\nresonance 0..10\nmode low/band/high\nFilter 2: as Filter 1\nFilter:\nrouting series/parallel\nenv amount -5..5`,
      8,
    ],
    [
      'two-oscillators-ring-drive',
      `Ring\n\nOscillator 1:\nwave saw/pulse\nPWM 0..10\nMixer:\n4 x 0..10 slider: osc 1, osc 2, noise, ring\nsub 0..10\ndrive 0..10\nFilter:\ncutoff 0..10\nhigh-pass 0..10\nLFO 1:\nrate 0..10\npitch 0..10\nLFO 2:\nrate 0..10\nshape triangle/square`,
      14,
    ],
    [
      'two-oscillators-eight-voices-effects',
      `Poly\n\nChorus:\nrate 0..10\nmix 0..10\nDelay:\ntime 0..10\nfeedback 0..10\nmix 0..10\nReverb:\ndecay 0..10\nmix 0..10`,
      7,
    ],
  ] as const)('%s recognises a panel of its kind, every control', (id, words, count) => {
    const panel = instrumentOf(readOutline(words).outline, words);
    const proposals = proposeBindings(panel, of(id));
    expect(panel.controls).toHaveLength(count);
    const known = new Set(proposals.map((p) => p.control));
    expect(panel.controls.map((c) => c.id).filter((c) => !known.has(c))).toEqual([]);
    const made = withSkeleton(panel, of(id), proposals);
    expect(checkInstrument(made)).toEqual([]);
    // It is the circuit that is offered first.
    const most = Math.max(...skeletons.map((s) => proposeBindings(panel, s).length));
    expect(most).toBe(count);
  });

  it('recognises controls by their section and name, each once', () => {
    expect(told('two-oscillators')).toEqual({
      'oscillator-1-wave': 'osc1.wave',
      'oscillator-1-octave': 'osc1.octave',
      'oscillator-1-fine': 'osc1.fine',
      'oscillator-1-width': 'osc1.width',
      'oscillator-2-wave': 'osc2.wave',
      'oscillator-2-octave': 'osc2.octave',
      'oscillator-2-fine': 'osc2.fine',
      'oscillator-2-width': 'osc2.width',
      'mixer-osc-1': 'mix.gain1',
      'mixer-osc-2': 'mix.gain2',
      'mixer-noise': 'mix.gain3',
      'filter-cutoff': 'filter.cutoff',
      'filter-resonance': 'filter.resonance',
      'filter-env-amount': 'fenv.gain',
      'filter-key-track': 'track.gain',
      'filter-envelope-attack': 'env2.attack',
      'filter-envelope-decay': 'env2.decay',
      'filter-envelope-sustain': 'env2.sustain',
      'filter-envelope-release': 'env2.release',
      'loudness-envelope-attack': 'env1.attack',
      'loudness-envelope-decay': 'env1.decay',
      'loudness-envelope-sustain': 'env1.sustain',
      'loudness-envelope-release': 'env1.release',
      'lfo-rate': 'lfo.rate',
      'lfo-shape': 'lfo.shape',
      'lfo-to-pitch': 'vib.gain',
      'lfo-to-cutoff': 'flfo.gain',
      'output-volume': 'out.level',
      'output-glide': 'keys.glide',
    });
  });

  it('takes printed numbers in their own unit, and half a range where the scale begins at nought', () => {
    const [cutoff, width, amount] = [
      'filter-cutoff',
      'oscillator-1-width',
      'filter-env-amount',
    ].map((id) => proposeBindings(bittern, of('two-oscillators')).find((p) => p.control === id)!);
    // What is read off the panel is what the parameter comes to, between the printed numbers too.
    const control = bittern.controls.find((c) => c.id === 'filter-cutoff') as ContinuousControl;
    const { taper } = cutoff!.binding as ContinuousControl['bindings'][number];
    for (const hz of [20, 60, 600, 3300, 20000]) {
      const found = taperValue(taper, travelAt(control.scale!.marks, hz, true)!);
      expect(Math.abs(found / hz - 1)).toBeLessThan(0.005);
    }
    expect(travelAt(control.scale!.marks, 600, true)).toBeCloseTo(0.5, 1);
    expect(width!.binding).toMatchObject({ taper: { kind: 'linear', lo: 5, hi: 95, unit: '%' } });
    expect(amount!.binding).toMatchObject({ taper: { lo: -1, hi: 1 } });
    const other = 'F\n\nFilter:\nenv amount 0..10\ncutoff 40-12k Hz\nkey track off/odd/full';
    const panel = instrumentOf(readOutline(other).outline, other);
    const found = proposeBindings(panel, of('one-oscillator'));
    expect(found.map((p) => p.binding)).toMatchObject([
      { taper: { kind: 'exponential', lo: 40, hi: 12000 } },
      { taper: { lo: 0, hi: 1 } },
      { values: { off: 0, odd: 0, full: 1 } },
    ]);
    expect(found[2]!.reason).toContain('not known: odd');
  });
});
