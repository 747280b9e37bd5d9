import { benchGraph, held, record } from '../../testing/bench';
import type { TimedNote } from '../../pattern/timed';

const RATE = 48000;
const envelope = (
  params: Record<string, number | string>,
  notes: TimedNote[],
  seconds: number,
  strokes = 'each',
) =>
  record(
    benchGraph(
      { keys: ['keyboard', { strokes, rule: 'last' }], env: ['envelope', params], out: ['output'] },
      ['keys.gate > env.gate', 'keys.trigger > env.trigger'],
      'out',
    ),
    'env.out',
    seconds,
    { notes, sampleRate: RATE },
  );

describe('envelope', () => {
  it.each([0.001, 0.05, 1])(
    'attack of %p s meets full level within one sample, on its curve',
    (attack) => {
      const out = envelope(
        { attack, decay: 1, sustain: 50, release: 0.1 },
        [held(60)],
        attack + 0.1,
      );
      const full = out.findIndex((v) => v >= 5 - 1e-6);
      expect(Math.abs(full + 1 - attack * RATE)).toBeLessThanOrEqual(1);
      // 1.3 (1 - e^(-t/tau)) with tau = T / ln(1.3 / 0.3), at half of the time.
      const half = Math.round((attack * RATE) / 2) - 1;
      const wanted = 5 * 1.3 * (1 - (0.3 / 1.3) ** ((half + 1) / (attack * RATE)));
      expect(out[half]!).toBeCloseTo(wanted, 6);
    },
  );

  it.each([0.02, 0.5])(
    'decay and release of %p s have 1 %% of their way left after their time',
    (time) => {
      const out = envelope(
        { attack: 0.001, decay: time, sustain: 40, release: time },
        [held(60, 2)],
        2 + time + 0.1,
      );
      const peak = out.findIndex((v) => v >= 5 - 1e-6);
      const way = (at: number): number => (out[at]! - 2) / 3;
      expect(way(peak + Math.round(time * RATE) - 1)).toBeGreaterThan(0.01);
      expect(way(peak + Math.round(time * RATE) + 1)).toBeLessThan(0.01);
      const off = 2 * RATE;
      const level = out[off - 1]!;
      expect(out[off + Math.round(time * RATE) - 2]! / level).toBeGreaterThan(0.01);
      expect(out[off + Math.round(time * RATE) + 1]! / level).toBeLessThan(0.01);
    },
  );

  it('starts anew at each stroke from where it is, but not in legato', () => {
    const notes = [held(60, 0.4), held(62, 0.4, 0.2)];
    const params = { attack: 0.05, decay: 0.05, sustain: 20, release: 0.1 };
    const anew = envelope(params, notes, 0.5);
    const legato = envelope(params, notes, 0.5, 'legato');
    const second = Math.round(0.2 * RATE);
    expect(anew[second - 1]).toBeCloseTo(legato[second - 1]!, 9);
    expect(anew[second]! - anew[second - 1]!).toBeLessThan(0.02);
    expect(Math.max(...anew.subarray(second, second + 4800))).toBeCloseTo(5, 6);
    expect(Math.max(...legato.subarray(second, second + 4800))).toBeLessThan(1.1);
  });
});

describe('kinds of envelope', () => {
  it.each([0.01, 0.2])('linear stages of %p s end after their time, in a straight line', (time) => {
    const out = envelope(
      { attack: time, decay: time, sustain: 40, release: time, curve: 'linear' },
      [held(60, 3 * time)],
      5 * time,
    );
    const n = Math.round(time * RATE);
    expect(out[n - 1]).toBe(5);
    expect(out[n / 2 - 1]).toBeCloseTo(2.5, 6);
    expect(out[2 * n - 1]).toBeCloseTo(2, 9);
    expect(out[1.5 * n - 1]).toBeCloseTo(3.5, 6);
    expect(out[4 * n - 1]).toBe(0);
    expect(out[3.5 * n - 1]).toBeCloseTo(1, 6);
  });

  it('waits for its delay, and holds', () => {
    const out = envelope(
      { delay: 0.1, attack: 0.01, hold: 0.2, decay: 0.01, sustain: 0, curve: 'linear' },
      [held(60, 1)],
      0.5,
    );
    const first = out.findIndex((v) => v > 0);
    expect(Math.abs(first - 0.1 * RATE)).toBeLessThanOrEqual(1);
    expect(out[Math.round(0.3 * RATE)]).toBe(5);
    expect(out[Math.round(0.325 * RATE)]).toBe(0);
  });

  it('ad runs through whatever the gate does; cycle goes on while it is open', () => {
    const once = { attack: 0.1, decay: 0.1, curve: 'linear' };
    const ad = envelope({ ...once, mode: 'ad' }, [held(60, 0.02)], 0.4);
    expect(ad[Math.round(0.1 * RATE) - 1]).toBe(5);
    expect(ad[Math.round(0.2 * RATE)]).toBe(0);
    const cycle = envelope(
      { ...once, sustain: 0, release: 0.01, mode: 'cycle' },
      [held(60, 1)],
      1.2,
    );
    for (const n of [0, 1, 2, 3])
      expect(cycle[Math.round((0.1 + 0.2 * n) * RATE) - 1]).toBeCloseTo(5, 2);
    expect(Math.max(...cycle.subarray(1.05 * RATE))).toBe(0);
  });

  it('begins from nothing when told to', () => {
    const notes = [held(60, 0.4), held(62, 0.4, 0.2)];
    const params = { attack: 0.05, decay: 0.05, sustain: 80, retrigger: 'from-zero' };
    const out = envelope(params, notes, 0.3);
    expect(out[Math.round(0.2 * RATE)]).toBeLessThan(0.1);
  });
});

describe('low frequency oscillator', () => {
  const lfo = (
    params: Record<string, number | string>,
    seconds: number,
    notes: TimedNote[] = [held(60)],
  ) =>
    record(
      benchGraph(
        { keys: ['keyboard'], lfo: ['lfo', params], out: ['output'] },
        ['keys.gate > lfo.gate'],
        'out',
      ),
      'lfo.out',
      seconds,
      { sampleRate: 8000, notes },
    );

  it.each([
    ['triangle', [0, 5, 0, -5]],
    ['square', [5, 5, -5, -5]],
    ['ramp-up', [-5, -2.5, 0, 2.5]],
    ['ramp-down', [5, 2.5, 0, -2.5]],
    ['sine', [0, 5, 0, -5]],
  ])('%s', (shape, quarters) => {
    const out = lfo({ shape, rate: 2 }, 1);
    quarters.forEach((wanted, i) => expect(out[i * 1000]).toBeCloseTo(wanted, 6));
  });

  it('does not drift in ten minutes', () => {
    const out = lfo({ shape: 'ramp-up', rate: 0.7 }, 600);
    const at = 599 * 8000;
    const turns = (at * 0.7) / 8000;
    expect(out[at]).toBeCloseTo(5 * (2 * (turns - Math.floor(turns)) - 1), 6);
  });

  it('holds one random level a cycle, the same for the same seed', () => {
    const out = lfo({ shape: 'random', rate: 4 }, 2);
    const levels = Array.from(
      { length: 8 },
      (_, i) => new Set(out.subarray(i * 2000, (i + 1) * 2000)),
    );
    for (const level of levels) expect(level.size).toBe(1);
    expect(new Set(levels.map((l) => [...l][0])).size).toBe(8);
    expect(lfo({ shape: 'random', rate: 4 }, 2)).toEqual(out);
  });

  it('is tied to the tempo: 8 bars at 132 bpm take 14.545 s, without drift in ten minutes', () => {
    const graph = benchGraph(
      { lfo: ['lfo', { shape: 'ramp-up', clock: 'tempo', beats: 32 }], out: ['output'] },
      [],
      'out',
    );
    const out = record(graph, 'lfo.out', 600, { sampleRate: 8000, tempo: 132 });
    for (const n of [1, 10, 41]) {
      const at = Math.ceil((n * 32 * 60 * 8000) / 132);
      expect(out[at - 1]! - out[at]!).toBeGreaterThan(9.9);
    }
  });

  it('smooth random passes no faster than its cycle lets it, and goes through its levels', () => {
    const out = lfo({ shape: 'smooth', rate: 4 }, 4);
    let steepest = 0;
    for (let i = 1; i < out.length; i++)
      steepest = Math.max(steepest, Math.abs(out[i]! - out[i - 1]!));
    expect(steepest).toBeLessThan((10 * Math.PI * 4) / 2 / 8000 + 1e-6);
    expect(Math.max(...out) - Math.min(...out)).toBeGreaterThan(2);
  });

  it('starts anew with the key, runs once, waits for its delay, fades out', () => {
    const notes = [held(60, 1, 0.13)];
    const from = Math.round(0.13 * 8000);
    expect(lfo({ shape: 'ramp-up', rate: 3, reset: 'key' }, 0.5, notes)[from]).toBeCloseTo(-5, 2);
    const once = lfo({ shape: 'ramp-up', rate: 10, run: 'once' }, 0.6, notes);
    expect(once[from + 799]).toBeCloseTo(5, 1);
    expect(once.at(-1)).toBeCloseTo(5, 3);
    const late = lfo({ shape: 'square', rate: 50, delay: 0.2 }, 0.6, notes);
    expect(Math.max(...late.subarray(0, from + 1590))).toBe(0);
    expect(Math.max(...late.subarray(from + 1610))).toBe(5);
    const out = lfo({ shape: 'square', rate: 50, fade: 0.2, 'fade-kind': 'out' }, 0.6, notes);
    expect(Math.abs(out[from + 10]!)).toBeGreaterThan(4.9);
    expect(Math.abs(out[from + 1610]!)).toBe(0);
  });

  it('fades in after the stroke', () => {
    const out = lfo({ shape: 'square', rate: 50, fade: 0.5 }, 1, [held(60, 1, 0.1)]);
    const depth = (second: number): number => Math.abs(out[Math.round(second * 8000)]!);
    expect(depth(0.35)).toBeCloseTo(2.5, 1);
    expect(depth(0.7)).toBeCloseTo(5, 6);
  });
});

describe('keys', () => {
  const keys = (
    params: Record<string, number | string>,
    notes: TimedNote[],
    port: string,
    seconds = 1,
  ) =>
    record(
      benchGraph({ keys: ['keyboard', params], out: ['output'] }, [], 'out'),
      `keys.${port}`,
      seconds,
      {
        sampleRate: 1000,
        notes,
      },
    );
  const chord = [held(60, 0.9), held(64, 0.6, 0.1), held(67, 0.3, 0.2)];

  it.each([
    ['low', 0, 0],
    ['high', 7 / 12, 7 / 12],
    ['last', 7 / 12, 7 / 12],
    ['first', 0, 0],
    ['low-and-high', 0, 7 / 12],
  ])('%s gives the voices their notes', (rule, one, two) => {
    expect(keys({ rule }, chord, 'pitch1')[300]).toBeCloseTo(one, 9);
    expect(keys({ rule }, chord, 'pitch2')[300]).toBeCloseTo(two, 9);
    expect(keys({ rule }, chord, 'gate')[300]).toBe(5);
  });

  it('keeps the last pitch, gate closed, when all keys are up', () => {
    expect(keys({ rule: 'last' }, chord, 'pitch1')[950]).toBeCloseTo(0, 9);
    expect(keys({}, chord, 'gate')[950]).toBe(0);
  });

  it('triggers each stroke, or only the first while keys are held', () => {
    const strokes = (mode: string): number =>
      keys({ strokes: mode }, chord, 'trigger').filter((v) => v > 2.5).length;
    expect(strokes('each')).toBe(3);
    expect(strokes('legato')).toBe(1);
  });

  it('glides exponentially: 1 % of the way left after its time', () => {
    const out = keys({ rule: 'last', glide: 0.2 }, [held(60, 0.5), held(72, 0.5, 0.3)], 'pitch1');
    expect(out[299]).toBe(0);
    expect(1 - out[300 + 198]!).toBeGreaterThan(0.01);
    expect(1 - out[300 + 201]!).toBeLessThan(0.01);
  });

  it('tunes in cents, and tells velocity in volts', () => {
    expect(keys({ tune: 50 }, [held(60)], 'pitch1')[10]).toBeCloseTo(0.5 / 12, 9);
    expect(keys({}, [held(60, 1, 0, 127)], 'velocity')[10]).toBe(5);
    expect(keys({}, [held(60, 1, 0, 64)], 'velocity')[10]).toBeCloseTo((5 * 64) / 127, 9);
  });
});
