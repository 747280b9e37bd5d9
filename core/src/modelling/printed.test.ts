import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { moduleSpec } from '../catalogue';
import type { NumberParam } from '../catalogue';
import type { ContinuousControl } from '../instrument/schema';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import { parseReading } from '../reading/parse';
import { printedTaper } from '../reading/printed-taper';
import { taperValue } from '../reading/taper';
import { firstBinding, printDiffers, turnables, withBindings } from './bind';
import { proposeBindings, type Skeleton, withSkeleton } from './skeleton';

const skeleton = JSON.parse(
  readFileSync(
    join(import.meta.dirname, '../../../library/skeletons/two-oscillators.json'),
    'utf8',
  ),
) as Skeleton;

const described = (panel: string) => instrumentOf(readOutline(panel).outline, panel);

/** What a parameter is set to when one reads this on the control that is bound to it. */
function setBy(control: ContinuousControl, text: string): number {
  const read = parseReading(text, control);
  if (!read.ok || read.setting?.kind !== 'set') throw new Error(JSON.stringify(read));
  return taperValue(control.bindings[0]!.taper, read.setting.value as number);
}

const PANEL = `Osc 2:
fine -12..12 st
Filter:
cutoff 16..16k Hz
resonance 0..100 %
Amp envelope:
attack 2 ms..4 s
decay 10 ms..8 s
sustain 0..100 %
release 0..20 s display
Keys:
glide 0..3 s`;

describe('What is printed in units', () => {
  it('is what a recognised control turns', () => {
    const panel = described(PANEL);
    const bound = withSkeleton(panel, skeleton, proposeBindings(panel, skeleton));
    const of = (name: string) => bound.controls.find((c) => c.name === name) as ContinuousControl;
    const said: [string, string, number][] = [
      ['fine', '7 st', 700],
      ['cutoff', '16', 16],
      ['cutoff', '500', 500],
      ['cutoff', '440', 440],
      ['cutoff', '16k', 16000],
      ['attack', '2 ms', 0.002],
      ['attack', '1 s', 1],
      ['decay', '300 ms', 0.3],
      ['decay', '8 s', 8],
      ['release', '304 ms', 0.304],
      ['glide', '1.5', 1.5],
    ];
    for (const [name, text, value] of said) {
      expect(of(name).bindings).toHaveLength(1);
      expect(Math.abs(setBy(of(name), text) / value - 1)).toBeLessThan(1e-3);
    }
  });

  it('is what a control that is bound by hand turns, and goes on doing so when it is typed anew', () => {
    const panel = described(PANEL);
    const bare = withSkeleton(panel, skeleton, []);
    const cutoff = bare.controls.find((c) => c.name === 'cutoff')!;
    const turned = turnables(bare).find((t) => t.param === 'cutoff')!;
    const bound = withBindings(bare, cutoff.id, [firstBinding(cutoff, turned)] as never);
    expect(bound.controls.find((c) => c.name === 'cutoff')!.bindings[0]).toMatchObject({
      taper: { kind: 'exponential', lo: 16, hi: 16000 },
    });
    const text = PANEL.replace('16..16k Hz', '20..20k Hz');
    const typed = instrumentOf(readOutline(text).outline, text, bound);
    expect(typed.controls.find((c) => c.name === 'cutoff')!.bindings[0]).toMatchObject({
      taper: { kind: 'exponential', lo: 20, hi: 20000 },
    });
  });

  it('is asked where the parameter cannot do it, and taken by nobody unasked', () => {
    const text = 'Osc 2:\nfine -36..36 st\nFilter:\ncutoff 0..10 V';
    const panel = described(text);
    const proposals = proposeBindings(panel, skeleton);
    expect(proposals.map((p) => p.asks)).toEqual([
      'The panel says -36 st to +36 st; fine goes from -1200 cents to +1200 cents.',
      'The panel says 0 V to 10 V; cutoff is set in Hz.',
    ]);
    const [fine] = panel.controls;
    const spec = moduleSpec('oscillator').params['fine']!;
    expect(printDiffers(fine!, proposals[0]!.binding, spec)).toHaveProperty('why');
  });

  it.each([
    ['level -60..0 dB', 'x', [0, 1], '-6', 0.5012],
    ['level 0..100 %', 'x', [0, 1], '50', 0.5],
    ['rate 50 ms..10 s', 'Hz', [0.01, 100], '500 ms', 2],
    ['tune -1..1 oct', 'st', [-24, 24], '0.5', 6],
    ['time 0;1;2;5;10 s', 's', [0.001, 20], '3', 3],
    ['cutoff 20;100;500;2k;20k Hz', 'Hz', [5, 20000], '316', 316],
  ])('%s sets %s', (line, unit, [lo, hi], text, value) => {
    const control = described(`P:\n${line}`).controls[0] as ContinuousControl;
    const param: NumberParam = { kind: 'number', unit, lo: lo!, hi: hi!, default: lo! };
    const printed = printedTaper(control, param, 'it')!;
    if (!('taper' in printed)) throw new Error(printed.why);
    const bindings = [{ module: 'm', param: 'p', taper: printed.taper }];
    expect(Math.abs(setBy({ ...control, bindings }, text) / value - 1)).toBeLessThan(2e-3);
  });
});
