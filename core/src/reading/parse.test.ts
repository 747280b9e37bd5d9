import type { Setting } from './setting';
import fc from 'fast-check';
import { isSwitched } from '../instrument';
import { controlOf, sluice } from '../testing/sluice';
import { formatSetting, readingText } from './format';
import { expectedReadings, parseReading } from './parse';
import { readingTolerance } from './resolution';
import { runs } from '../testing/runs';

const read = (id: string, text: string, current?: Setting): Setting | null => {
  const parsed = parseReading(text, controlOf(id), current);
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.setting;
};
const refuse = (id: string, text: string): string => {
  const parsed = parseReading(text, controlOf(id));
  if (parsed.ok) throw new Error(`"${text}" was understood`);
  return parsed.message;
};

describe('a place', () => {
  it.each([
    ['osc2-fine', '2:30', 0.75],
    ['osc2-fine', '10:30', 0.35],
    ['osc2-fine', 'half past two', 0.75],
    ['osc2-fine', 'noon', 0.5],
    ['osc2-fine', 'min', 0],
    ['osc2-fine', 'max', 1],
    ['osc2-fine', '70%', 0.7],
    ['osc2-fine', '70 %', 0.7],
    ['osc2-fine', '-25 cents', 0.25],
    ['osc2-fine', '+25ct', 0.75],
    ['cutoff', '6.5', 0.65],
    ['cutoff', '6,5', 0.65],
    ['cutoff', '.5', 0.05],
    ['cutoff', '9:00', 0.2],
    ['filter-amount', '-3', 0.2],
    ['filter-amount', '−3', 0.2],
    ['filter-amount', '2.5 oct', 0.75],
    ['osc2-interval', '-7st', 5 / 24],
    ['osc1-width', '18%', 0.18],
    ['drive', '15 dB', 0.5],
  ])('%s: %s', (id, text, value) => {
    expect(read(id, text)).toEqual({ kind: 'set', value: expect.closeTo(value, 8) as number });
  });

  it('reads units through the taper: 412 ms of 1 ms to 10 s', () => {
    const p = Math.log(0.412 / 0.001) / Math.log(10 / 0.001);
    expect(read('env1-attack', '412ms')).toEqual({
      kind: 'set',
      value: expect.closeTo(p, 8) as number,
    });
    expect(read('env1-attack', '0.412 s')).toEqual(read('env1-attack', '412 ms'));
    expect(read('cutoff', '1.2 kHz')).toEqual(read('cutoff', '1200Hz'));
  });

  it('reads a note where a frequency is set', () => {
    expect(read('cutoff', 'A4')).toEqual(read('cutoff', '440 Hz'));
    expect(refuse('env1-attack', 'A4')).toMatch(/not a pitch/);
  });

  it.each([
    ['osc2-fine', '6:00', /gap of the dial.*7:00 to 5:00/],
    ['osc2-fine', '13:00', /hours run from 1 to 12/],
    ['osc2-fine', '2:75', /minutes from 00 to 59/],
    ['osc2-fine', '3', /no numbers printed/],
    ['cutoff', '11', /off the scale, which runs from 0 to 10/],
    ['cutoff', '30 kHz', /from 20 Hz to 20 kHz/],
    ['cutoff', '120%', /0 to 100 %/],
    ['cutoff', '3 ms', /not measured in s, but in Hz/],
    ['cutoff', 'loud', /not a reading of cutoff/],
    ['env1-attack', '2:30', /no clock reading/],
    ['cutoff', '', /Nothing was written/],
  ])('%s: refuses %s and says why', (id, text, message) =>
    expect(refuse(id, text)).toMatch(message),
  );
});

describe('kinds of setting', () => {
  it('reads ranges, their unit behind the second number', () => {
    expect(read('level', '40-50%')).toEqual({ kind: 'range', from: 0.4, to: 0.5, best: 0.45 });
    expect(read('level', 'somewhere from 40 to 50 %')).toEqual(read('level', '40-50%'));
    expect(read('cutoff', '3.5 to 4 best 3.7')).toEqual({
      kind: 'range',
      from: 0.35,
      to: 0.4,
      best: 0.37,
    });
    expect(read('cutoff', '4–3.5, best 3.7')).toEqual(read('cutoff', '3.5-4@3.7'));
    expect(read('filter-amount', '-3--1')).toEqual({
      kind: 'range',
      from: 0.2,
      to: 0.4,
      best: 0.3,
    });
    expect(read('osc2-fine', '2:00-2:30')).toEqual({
      kind: 'range',
      from: 0.7,
      to: 0.75,
      best: 0.725,
    });
    expect(refuse('cutoff', '3-4 best 6')).toMatch(/outside the range/);
  });

  it('reads targets for the ear', () => {
    expect(read('osc2-fine', '~2:30 until the beat stops')).toEqual({
      kind: 'ear',
      near: 0.75,
      target: 'until the beat stops',
    });
    const here: Setting = { kind: 'set', value: 0.3 };
    expect(read('osc2-fine', '~ until the lamp blinks', here)).toMatchObject({ near: 0.3 });
    expect(read('osc1-shape', '~pu until it barks')).toEqual({
      kind: 'ear',
      near: 'pulse',
      target: 'until it barks',
    });
    expect(refuse('osc2-fine', '~2:30')).toMatch(/target in words/);
  });

  it('tells not recorded from not mattering', () => {
    expect(read('cutoff', '?')).toBeNull();
    expect(read('cutoff', '*')).toEqual({ kind: 'any' });
  });
});

describe('positions', () => {
  it.each([
    ['osc1-shape', 'saw', 'saw'],
    ['osc1-shape', 'PU', 'pulse'],
    ['osc1-shape', '#3', 'triangle'],
    ['osc1-shape', 'fourth', 'sine'],
    ['note', 'the third LED', 'last'],
    ['osc1-octave', '16', 'f16'],
    ['osc1-octave', "16'", 'f16'],
    ['osc1-octave', '2', 'f2'],
    ['velocity', 'on', 'on'],
  ])('%s: %s is %s', (id, text, value) => expect(read(id, text)).toEqual({ kind: 'set', value }));

  it('asks for a letter more when a beginning fits two', () => {
    expect(refuse('osc1-shape', 's')).toMatch(/saw or sine/);
    expect(refuse('osc1-shape', 'square')).toMatch(/no position "square"/);
    expect(refuse('osc1-shape', '#9')).toMatch(/only 5 positions/);
  });
});

describe('every control of the instrument', () => {
  const settings = (): fc.Arbitrary<Setting> => {
    const p = fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000);
    return fc.oneof(
      p.map((value) => ({ kind: 'set', value }) as Setting),
      fc
        .tuple(p, p, p)
        .map((all) => [...all].sort((a, b) => a - b) as [number, number, number])
        .map(([from, best, to]) => ({ kind: 'range', from, best, to }) as Setting),
    );
  };

  it('reads again what the panel shows, within what it can resolve', () => {
    for (const control of sluice.controls) {
      if (isSwitched(control)) {
        for (const { id } of control.positions) {
          expect(read(control.id, readingText(control, { kind: 'set', value: id }))).toEqual({
            kind: 'set',
            value: id,
          });
        }
        continue;
      }
      fc.assert(
        fc.property(settings(), (setting) => {
          const again = read(control.id, readingText(control, setting));
          const value = (s: Setting | null): number =>
            s?.kind === 'range' ? s.best : s?.kind === 'set' ? Number(s.value) : NaN;
          expect(Math.abs(value(again) - value(setting))).toBeLessThanOrEqual(
            readingTolerance(control, value(setting)) + 1e-9,
          );
        }),
        { numRuns: runs(60) },
      );
    }
  });

  it('answers anything at all with a setting or with what it expected', () => {
    const words = fc.oneof(
      fc.string({ maxLength: 30 }),
      fc.stringMatching(/^[~*?0-9:.,%a-z +@-]{0,18}$/),
    );
    fc.assert(
      fc.property(fc.constantFrom(...sluice.controls), words, (control, text) => {
        const parsed = parseReading(text, control);
        if (parsed.ok)
          expect(typeof formatSetting(control, parsed.setting ?? undefined)).toBe('string');
        else expect(parsed.expected).toBe(expectedReadings(control));
      }),
      { numRuns: runs(3000) },
    );
  });
});
