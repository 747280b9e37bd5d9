import fc from 'fast-check';
import type { ContinuousControl } from '../instrument/schema';
import { formatValue, parseReading, sameReading } from '../reading';
import { runs } from '../testing/runs';
import { instrumentOf } from './instrument';
import { readOutline } from './read';

/** The control that one line describes. */
function controlIn(line: string): ContinuousControl {
  const { outline, faults } = readOutline(`Panel:\n${line}`);
  expect(faults).toEqual([]);
  return instrumentOf(outline, '').controls[0] as ContinuousControl;
}

/** Where a control stands when one reads this on it. */
function at(control: ContinuousControl, text: string): number {
  const read = parseReading(text, control);
  if (!read.ok || read.setting?.kind !== 'set') throw new Error(`${text}: ${JSON.stringify(read)}`);
  return read.setting.value as number;
}

describe('A display', () => {
  it.each([
    ['attack 0..20 s encoder', '5 ms', '304 ms'],
    ['attack 0..20 s display', '304 ms', '305 ms'],
    ['decay 0.5ms..20s menu', '0.6 ms', '0.7 ms'],
    ['time 5 ms..5 s display', '1.52 s', '1.53 s'],
    ['time 1..500 ms menu', '412 ms', '413 ms'],
    ['table 1..64 menu', '12', '13'],
    ['level 0..127 menu', '126', '127'],
    ['semi -24..24 st encoder', '3 st', '4 st'],
    ['cutoff 0..128.0 display', '58.3', '58.4'],
    ['cutoff 20 Hz-20 kHz display', '12000 Hz', '12.5 kHz'],
    ['drive 0..100 display by 5', '35', '40'],
    ['sync 0..127 display, 0 is off, 127 is hold', 'off', '1'],
  ])('of "%s" tells %s from %s, and shows what was read', (line, one, other) => {
    const control = controlIn(line);
    const [a, b] = [at(control, one), at(control, other)];
    expect(sameReading(control, a, b)).toBe(false);
    expect(at(control, formatValue(control, a))).toBe(a);
    expect(formatValue(control, a)).not.toBe(formatValue(control, b));
  });

  it('shows milliseconds below a second, seconds above, and words in place of numbers', () => {
    const time = controlIn('attack 0..20 s display');
    expect(
      ['5 ms', '0.304 s', '999 ms', '1 s', '12.34 s'].map((t) => formatValue(time, at(time, t))),
    ).toEqual(['5 ms', '304 ms', '999 ms', '1.00 s', '12.34 s']);
    const worded = controlIn('hold 0..127 menu, 0 is off, 127 is for good');
    expect(['0', '12', 'FOR GOOD'].map((t) => formatValue(worded, at(worded, t)))).toEqual([
      'off',
      '12',
      'for good',
    ]);
  });

  it('shows in steps from its lowest number', () => {
    const control = controlIn('rate 1..99 display by 7');
    expect(formatValue(control, at(control, '16'))).toBe('15');
  });

  it('asks for the unit of a bare number only where it may be either', () => {
    const time = controlIn('time 5 ms..5 s display');
    expect(parseReading('5', time)).toMatchObject({
      ok: false,
      message: expect.stringContaining('5 ms or 5 s'),
    });
    expect(formatValue(time, at(time, '400'))).toBe('400 ms');
  });

  it('is what it shows: two places are one reading when the same is shown, and nothing else is', () => {
    const lines = [
      '0..20 s',
      '1..64',
      '0..128.0',
      '-64..63',
      '20..20k Hz',
      '5 ms..5 s',
      '0..100 %',
    ];
    const controls = lines.map((line) => controlIn(`x ${line} display`));
    fc.assert(
      fc.property(fc.constantFrom(...controls), fc.nat(1e6), fc.nat(2000), (control, a, step) => {
        const [one, two] = [a / 1e6, Math.min(1, a / 1e6 + step / 1e7)];
        const shown = [one, two].map((p) => formatValue(control, p));
        expect(sameReading(control, one, two)).toBe(shown[0] === shown[1]);
        expect(formatValue(control, at(control, shown[0]!))).toBe(shown[0]);
      }),
      { numRuns: runs(400, 4000) },
    );
  });
});

describe('Words of a panel', () => {
  it.each([
    ['rate 20 Hz-2 kHz', 'rate', [20, 2000], 'Hz'],
    ['attack 5 ms..5 s', 'attack', [0.005, 5], 's'],
    ['attack 5 ms to 5 s', 'attack', [0.005, 5], 's'],
    ['time 0..500 ms', 'time', [0, 0.5], 's'],
    ['cutoff 0.02..20 kHz', 'cutoff', [20, 20000], 'Hz'],
    ['cutoff 20..20k Hz', 'cutoff', [20, 20000], 'Hz'],
    ['Osc 1 fine -50..50 cents', 'Osc 1 fine', [-50, 50], 'cents'],
  ])('%s: a scale with its unit', (line, name, ends, unit) => {
    const control = controlIn(line);
    expect(control.name).toBe(name);
    expect(control.scale!.unit).toBe(unit);
    expect([control.scale!.marks[0]!.value, control.scale!.marks.at(-1)!.value]).toEqual(ends);
  });

  it.each([
    ['cutoff 20..2k Hx', '20..2k Hx'],
    ['slope 12 low/24 low', 'slope 12 low/24 low'],
    ['cutoff 20 Hz', '20 Hz'],
    ['rate 1..5 bananas', '1..5 bananas'],
    ['rate 20 Hz..5 s', 'rate 20 Hz..5 s'],
    ['time 0..10 ms..', '0..10 ms..'],
    ['drive 0 to 10 to 20', '0 to 10 to 20'],
  ])('%s: marked where it is not understood, and no name', (line, part) => {
    const { outline, faults } = readOutline(`Panel:\n${line}`);
    expect(outline.sections[0]!.controls).toEqual([]);
    expect(faults).toHaveLength(1);
    const [{ column, length }] = faults as [(typeof faults)[0]];
    expect(line.slice(column - 1, column - 1 + length)).toBe(part);
  });

  it.each(['Osc 1 - 2', 'LFO 1 to Osc 2', '2-pole filter', 'CV 3', 'wave 4 amount', 'Osc 2 level'])(
    '%s is a name',
    (line) => expect(controlIn(line).name).toBe(line),
  );
});
