import { readdirSync, readFileSync } from 'node:fs';
import { checkup } from '../checkup';
import { checkInstrument } from '../instrument/check';
import { panelOf } from '../instrument/panel-of';
import { type Instrument, instrumentSchema } from '../instrument/schema';
import { hasCircuit } from '../instrument/switched';
import { instrumentOf } from '../outline/instrument';
import { moduleInFocus, withModuleInFocus } from '../outline/module-focus';
import { readOutline } from '../outline/read';
import { blankPatch } from '../patch/create';
import { checkPatch } from '../patch/check';
import { circuitsFor, withModulesModelled } from './cabinet-circuits';
import { type Skeleton, skeletonSchema, withSkeleton } from './skeleton';

const folder = new URL('../../../library/skeletons/', import.meta.url);
const skeletons = readdirSync(folder).map((file) =>
  skeletonSchema.parse(JSON.parse(readFileSync(new URL(file, folder), 'utf8'))),
);
const forModules = skeletons.filter((s) => s.module !== undefined);

const words = `Heron by Own

Keyboard: module
glide 0..10
> pitch, pitch V/oct
> gate, gate
> velocity
VCO: module
wave saw/pulse/tri
octave 32'/16'/8'/4' = 8'
fine
width 5-95 %
< pitch, pitch V/oct
< width mod
> out
VCF: module
cutoff 20..20k Hz
resonance 0..10
mod amount -5..5
< in, audio
< mod
< track
> out
Envelope: module
| attack 0..10
| decay 0..10
| sustain 0..10
| release 0..10
< gate
> out
> inverted out
VCA: module
level 0..10
< in, audio
< cv
> out
LFO: module
rate 0.05..50 Hz
shape tri/square/ramp up
> out
Way out: module
level 0..10
< left, audio
< right, audio
Lamp: module
brightness 0..10

= Keyboard, VCO, VCO, VCF, Way out
= Envelope, Envelope, LFO, VCA, Lamp`;
const heron = instrumentOf(readOutline(words).outline, words);
const { instrument: made, modelled } = withModulesModelled(heron, skeletons);

describe('circuits behind the modules of a cabinet', () => {
  it.each(forModules.map((s) => [s.id, s] as const))('%s is sound behind a module', (_, s) => {
    const text = `C\n\n${s.name}: module\nlevel 0..10\nrate 0..10\n< in, audio\n< cv\n> out\n= ${s.name}`;
    const cabinet = instrumentOf(readOutline(text).outline, text);
    const [type] = cabinet.rack!.types;
    const module = moduleInFocus(cabinet, type!.id)!;
    const [best] = circuitsFor(module, skeletons);
    expect(best!.skeleton.id).toBe(s.id);
    const bare = withModuleInFocus(cabinet, type!.id, withSkeleton(module, s, []));
    expect(checkInstrument(bare)).toEqual([]);
    expect(checkInstrument(withModulesModelled(cabinet, skeletons).instrument)).toEqual([]);
  });

  it('are given to every module whose name one is for, with what is not known told', () => {
    expect(hasCircuit(heron)).toBe(false);
    expect(hasCircuit(made)).toBe(true);
    expect(checkInstrument(made)).toEqual([]);
    expect(instrumentSchema.safeParse(made).success).toBe(true);
    expect(modelled.map((m) => [m.name, m.circuit, m.open])).toEqual([
      ['Keyboard', 'Keyboard or converter', []],
      ['VCO', 'Oscillator', []],
      ['VCF', 'Low-pass with four poles', []],
      ['Envelope', 'Envelope', []],
      ['VCA', 'Amplifier', []],
      ['LFO', 'LFO', []],
      ['Way out', 'Way out', []],
      ['Lamp', undefined, ['brightness']],
    ]);
    // Nothing is done twice.
    expect(withModulesModelled(made, skeletons).modelled.map((m) => m.name)).toEqual(['Lamp']);
  });

  it.each([
    ['Overdrive', 'drive 0..10\ncurve soft/hard/fold', 'drive'],
    ['Folder', 'fold 0..10', 'drive'],
    ['Ensemble', 'rate 0..10\ndepth 0..10\nmix 0..10', 'chorus'],
    ['Phaser', 'stages 4/6/8\nrate 0..10\nfeedback 0..10', 'phaser'],
    ['Comb filter', 'frequency 0..10\nresonance 0..10\ndamping 0..10', 'comb'],
    ['Vowel filter', 'vowel 0..10\nshift -5..5', 'formant'],
    ['Compressor', 'threshold 0..10\nratio 0..10\nattack 0..10\nrelease 0..10', 'compressor'],
    ['EQ', 'low -5..5\nmid -5..5\nhigh -5..5', 'equaliser'],
    ['Frequency shifter', 'shift -5..5\nmix 0..10', 'shifter'],
    ['Logic', 'mode and/or/xor', 'logic'],
    ['Clock divider', 'by 1..16', 'divider'],
    ['Comparator', 'threshold -5..5', 'comparator'],
    ['Spring', 'decay 0..10\ndamping 0..10\nmix 0..10', 'spring'],
    ['Room', 'decay 0..10\nmix 0..10', 'reverb'],
    ['Speaker', 'presence 0..10\ntreble 0..10', 'speaker'],
    ['Stepper', 'step 1 0..10\nstep 2 0..10\nlast 1..8\ndirection forward/back/random', 'row'],
  ])('%s is recognised, with all that it is turned by', (name, controls, id) => {
    const text = `C\n\n${name}: module\n${controls}\n< in\n> out\n= ${name}`;
    const cabinet = instrumentOf(readOutline(text).outline, text);
    const done = withModulesModelled(cabinet, skeletons);
    const wanted = forModules.find((s) => s.id === `module-${id}`)!;
    expect(done.modelled.map((m) => [m.circuit, m.open])).toEqual([[wanted.name, []]]);
    expect(checkInstrument(done.instrument)).toEqual([]);
  });

  const cables = [
    ['keyboard-1-keyboard-pitch-out', 'vco-1-vco-pitch-in'],
    ['vco-1-vco-out-out', 'vcf-1-vcf-in-in'],
    ['vcf-1-vcf-out-out', 'vca-1-vca-in-in'],
    ['keyboard-1-keyboard-gate-out', 'envelope-1-envelope-gate-in'],
    ['envelope-1-envelope-out-out', 'vca-1-vca-cv-in'],
    ['vca-1-vca-out-out', 'way-out-1-way-out-left-in'],
  ];
  const patch = (of: Instrument, pulled: number) => ({
    ...blankPatch(of, 'P'),
    cables: cables
      .filter((_, i) => i !== pulled)
      .map(([from, to], i) => ({ id: `c${i}`, from: from!, to: to!, note: '' })),
    settings: {
      'vcf-1-vcf-cutoff': { kind: 'set', value: 0.8 } as const,
      'envelope-1-envelope-sustain': { kind: 'set', value: 0.8 } as const,
      'way-out-1-way-out-level': { kind: 'set', value: 0.8 } as const,
    },
  });

  it('sound when they are cabled, and say why they are silent when they are not', () => {
    expect(panelOf(made).jacks.map((j) => j.id)).toEqual(expect.arrayContaining(cables.flat()));
    const whole = patch(made, -1);
    expect(checkPatch(whole, made)).toEqual([]);
    const silent = (p: typeof whole) =>
      checkup(panelOf(made), p).filter((f) => f.severity === 'silent');
    expect(silent(whole)).toEqual([]);
    for (const pulled of [1, 2, 4, 5]) expect(silent(patch(made, pulled))).not.toEqual([]);
  });
});

describe('a skeleton for modules', () => {
  it('is told from one for whole instruments', () => {
    const ids = (all: readonly Skeleton[]) => all.map((s) => s.id.startsWith('module-'));
    expect(ids(forModules)).not.toContain(false);
    expect(ids(skeletons.filter((s) => !s.module))).not.toContain(true);
  });
});
