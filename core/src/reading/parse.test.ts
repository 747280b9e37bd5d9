import type { Setting } from './setting';
import fc from 'fast-check';
import { type ContinuousControl, type Control, isSwitched, type Taper } from '../instrument';
import { controlOf, sluice } from '../testing/sluice';
import { formatSetting, readingText } from './format';
import { expectedReadings } from './expected-readings';
import { parseReading } from './parse';
import { nudge, readingTolerance, readingStyle, sameReading } from './resolution';
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
    ['osc2-fine', '0.25 st', 0.75],
    ['osc2-interval', '-700 cents', 5 / 24],
    ['osc2-interval', '1 octave', 1],
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
          if (setting.kind === 'range' && !sameReading(control, setting.from, setting.to))
            expect(again!.kind).toBe('range');
          expect(Math.abs(value(again) - value(setting))).toBeLessThanOrEqual(
            readingTolerance(control, value(setting)) + 1e-9,
          );
        }),
        { numRuns: runs(60) },
      );
    }
  });

  it('keeps a range that is narrower than the panel is read', () => {
    for (const control of sluice.controls.filter((c) => !isSwitched(c))) {
      const narrow: Setting = { kind: 'range', from: 0.501, best: 0.50104, to: 0.5011 };
      const again = read(control.id, readingText(control, narrow))!;
      if (again.kind === 'range') expect(again.from).toBeCloseTo(0.501, 3);
      else expect(readingStyle(control as ContinuousControl)).toBe('display');
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

const control = (over: object): Control =>
  ({
    id: 'k',
    section: 's',
    name: 'k',
    kind: 'knob',
    place: { x: 0, y: 0, size: 40 },
    sweep: 300,
    rest: 0,
    bindings: [],
    ...over,
  }) as unknown as Control;
const bound = (taper: Taper): object => ({ bindings: [{ module: 'm', param: 'p', taper }] });
const rate = control(bound({ kind: 'exponential', lo: 0.05, hi: 50, unit: 'Hz' }));
const time = control(bound({ kind: 'exponential', lo: 0.001, hi: 20, unit: 's' }));
const gain = control(bound({ kind: 'linear', lo: 0, hi: 2, unit: 'x' }));
const amount = control({ amount: true, ...bound({ kind: 'linear', lo: -5, hi: 5, unit: 'V' }) });
const printed = control({
  scale: {
    marks: [
      { at: 0, value: 0 },
      { at: 1, value: 10 },
    ],
    division: 0.5,
    unit: '',
  },
});
const both = control({
  scale: {
    marks: [
      { at: 0, value: -5 },
      { at: 1, value: 5 },
    ],
    division: 0.5,
    unit: '',
  },
});
const of = (text: string, c: Control, tempo = 120): number => {
  const parsed = parseReading(text, c, { kind: 'set', value: 0.5 }, tempo);
  if (!parsed.ok || parsed.setting?.kind !== 'set')
    throw new Error(`${text}: ${JSON.stringify(parsed)}`);
  return Number(parsed.setting.value);
};
const says = (text: string, c: Control): string[] => {
  const parsed = parseReading(text, c);
  return parsed.ok ? parsed.said : [parsed.message];
};
const hz = (position: number): number => 0.05 * 1000 ** position;
const seconds = (position: number): number => 0.001 * 20000 ** position;

describe('note lengths', () => {
  it.each([
    ['1/4', 0.5],
    ['1/8.', 0.375],
    ['1/8t', 1 / 6],
    ['3/16', 0.375],
    ['dotted eighth', 0.375],
    ['a quarter note', 0.5],
    ['8 bars', 16],
    ['one bar', 2],
    ['triplet quarter', 1 / 3],
  ])('%s at 120 bpm are %p s, or their rate', (text, length) => {
    expect(seconds(of(text, time))).toBeCloseTo(length, 6);
    expect(hz(of(text, rate))).toBeCloseTo(1 / length, 6);
    expect(says(text, rate)[0]).toContain('at 120 bpm');
  });

  it('follow the tempo', () => expect(seconds(of('1/4', time, 60))).toBeCloseTo(1, 6));

  it('a rate is also read by its period, a time by its rate, and both say so', () => {
    expect(hz(of('11 s', rate))).toBeCloseTo(1 / 11, 6);
    expect(seconds(of('4 Hz', time))).toBeCloseTo(0.25, 6);
    expect(says('11 s', rate)).toEqual(['11 s is 0.09 Hz']);
  });

  it('say nothing about what is neither', () =>
    expect(says('1/4', printed)[0]).toContain('not a reading'));
});

describe('words for places', () => {
  it.each([
    ['fully up', 1],
    ['all the way down', 0],
    ['lowest', 0],
    ['halfway', 0.5],
    ['half', 0.5],
    ['two thirds', 2 / 3],
    ['three quarters', 0.75],
    ['min', 0],
    ['max', 1],
  ])('%s', (text, place) => {
    for (const c of [rate, printed, both, gain]) expect(of(text, c)).toBeCloseTo(place, 8);
  });

  it.each([
    ['about 4', 0.375, 0.425, 0.4],
    ['a bit over 3', 0.3, 0.35, 0.325],
    ['just under half', 0.45, 0.5, 0.475],
  ])('%s is a range of what the panel can be read to', (text, from, to, best) => {
    const parsed = parseReading(text, printed);
    expect(parsed.ok && parsed.setting).toEqual({
      kind: 'range',
      from: expect.closeTo(from, 8) as number,
      to: expect.closeTo(to, 8) as number,
      best: expect.closeTo(best, 8) as number,
    });
    expect(says(text, printed)[0]).toMatch(/^taken as/);
  });

  it('notches count from where it stands', () => {
    const now = { kind: 'set', value: 0.5 } as const;
    const up = parseReading('one notch up', printed, now);
    expect(up.ok && up.setting).toEqual({ kind: 'set', value: Number(nudge(printed, 0.5, 1)) });
    const down = parseReading('two steps down', printed, now);
    expect(down.ok && down.setting).toEqual({
      kind: 'set',
      value: Number(nudge(printed, 0.5, -2)),
    });
  });
});

describe('numbers that could be two things', () => {
  it('a comma before three digits parts thousands', () => {
    expect(seconds(of('1,200 ms', time))).toBeCloseTo(1.2, 6);
    expect(says('1,200 ms', time)).toEqual(['1,200 is 1200']);
    expect(seconds(of('0,250 s', time))).toBeCloseTo(0.25, 6);
    expect(seconds(of('1,5 s', time))).toBeCloseTo(1.5, 6);
  });

  it('per cent of an amount that has a minus side counts from nothing, and says so', () => {
    for (const c of [amount, both]) {
      expect(of('40.1%', c)).toBeCloseTo(0.5 + 0.401 / 2, 8);
      expect(of('-40%', c)).toBeCloseTo(0.3, 8);
      expect(says('40.1%', c)).toEqual(['40.1% of the plus side, counted from 0']);
    }
  });

  it('0 is taken by every control: nothing, in the middle of what goes both ways', () => {
    for (const c of [rate, gain, printed]) expect(of('0', c)).toBe(0);
    for (const c of [amount, both]) expect(of('0', c)).toBe(0.5);
  });

  it('a gain is read in decibels and as a factor, as it is told', () => {
    expect(of('0 dB', gain)).toBeCloseTo(0.5, 8);
    expect(of('-6 dB', gain)).toBeCloseTo(10 ** (-6 / 20) / 2, 8);
    for (const text of ['×0.5', 'x 0.5', '0.5x']) expect(of(text, gain)).toBeCloseTo(0.25, 8);
  });

  it('0:30 is no time of a clock', () => expect(says('0:30', rate)[0]).toContain('not a time'));

  it('reversed ranges are turned round, and borrowed units told', () => {
    const parsed = parseReading('50-40%', rate);
    expect(parsed).toMatchObject({ ok: true, setting: { kind: 'range', from: 0.4, to: 0.5 } });
    expect(says('50-40%', rate)).toEqual(['50 in % too', 'turned round']);
  });
});
