import type { ModuleKind } from '../../catalogue/index';
import { benchGraph, held, record } from '../../testing/bench';

const RATE = 8000;
type Params = Record<string, number | string>;
const run = (
  modules: Record<string, [ModuleKind, Params?]>,
  wires: string[],
  port: string,
  seconds: number,
  more: Parameters<typeof record>[3] = {},
): Float64Array =>
  record(benchGraph({ ...modules, out: ['output'] }, wires, 'out'), port, seconds, {
    sampleRate: RATE,
    ...more,
  });
const square = (rate: number): [ModuleKind, Params] => ['lfo', { shape: 'square', rate }];
const rises = (sound: Float64Array): number[] =>
  [...sound.keys()].filter((i) => sound[i]! > 2.5 && (i === 0 || sound[i - 1]! <= 2.5));

describe('small tools', () => {
  it('inverts, offsets, copies, selects', () => {
    const modules: Record<string, [ModuleKind, Params?]> = {
      l: ['controller', { position: 60 }],
      i: ['inverter'],
      o: ['offset', { volts: 1.5 }],
      m: ['multiple'],
      s: ['selector', { choice: 'in3' }],
    };
    const wires = [
      'l.out > i.in',
      'i.out > o.in',
      'o.out > m.in',
      'm.out2 > s.in3',
      'l.out > s.in1',
    ];
    expect(run(modules, wires, 's.out', 0.01)[20]).toBeCloseTo(-1.5, 9);
  });

  it('slews at 5 V in its time, or with 1 % left after it', () => {
    const modules = (curve: string): Record<string, [ModuleKind, Params?]> => ({
      g: ['keyboard'],
      s: ['slew', { rise: 0.1, fall: 0.05, curve }],
    });
    const notes = [held(60, 0.3, 0.1)];
    const line = run(modules('linear'), ['g.gate > s.in'], 's.out', 0.6, { notes });
    expect(line[800 + 399]).toBeCloseTo(2.5, 1);
    expect(line[800 + 800]).toBe(5);
    expect(line[3200 + 201]).toBeCloseTo(2.5, 1);
    const bend = run(modules('exponential'), ['g.gate > s.in'], 's.out', 0.6, { notes });
    expect(5 - bend[800 + 797]!).toBeGreaterThan(0.05);
    expect(5 - bend[800 + 801]!).toBeLessThan(0.05);
  });

  it('compares', () => {
    const out = run(
      { l: ['lfo', { shape: 'ramp-up', rate: 1 }], c: ['comparator', { threshold: 2.5 }] },
      ['l.out > c.in'],
      'c.out',
      1,
    );
    expect(rises(out)).toEqual([6001]);
  });

  it.each([
    ['and', [0, 0, 0, 5]],
    ['or', [0, 5, 5, 5]],
    ['xor', [0, 5, 5, 0]],
    ['nand', [5, 5, 5, 0]],
    ['nor', [5, 0, 0, 0]],
    ['not', [5, 5, 0, 0]],
  ])('%s', (kind, table) => {
    for (const [i, wanted] of table.entries()) {
      const [a, b] = [i & 2 ? 100 : 0, i & 1 ? 100 : 0];
      const modules: Record<string, [ModuleKind, Params?]> = {
        a: ['controller', { position: a }],
        b: ['controller', { position: b }],
        g: ['logic', { kind }],
      };
      expect(run(modules, ['a.out > g.a', 'b.out > g.b'], 'g.out', 0.01)[0]).toBe(wanted);
    }
  });

  it('divides a clock, beginning with the first', () => {
    const out = run({ l: square(10), d: ['divider', { by: 3 }] }, ['l.out > d.in'], 'd.out', 1);
    expect(rises(out)).toEqual([0, 2400, 4800, 7200]);
  });

  it('counts a clock from the start: no drift in ten minutes', () => {
    const out = run({ c: ['clock', { beats: 0.25 }] }, [], 'c.out', 600, { tempo: 127 });
    const found = rises(out);
    found.forEach((at, n) =>
      expect(Math.abs(at - (n * 0.25 * 60 * RATE) / 127)).toBeLessThanOrEqual(1),
    );
    expect(found).toHaveLength(Math.ceil((600 * 127) / 60 / 0.25));
  });

  it('holds what came in at the trigger', () => {
    const out = run(
      { l: ['lfo', { shape: 'ramp-up', rate: 1 }], t: square(4), s: ['sample-hold'] },
      ['l.out > s.in', 't.out > s.trigger'],
      's.out',
      1,
    );
    [0, 1, 2, 3].forEach((n) => expect(out[n * 2000 + 1500]).toBeCloseTo(-5 + 2.5 * n, 9));
  });

  it('modulates amplitude: nothing in the second input leaves half', () => {
    const modules: Record<string, [ModuleKind, Params?]> = {
      a: ['controller', { position: 80 }],
      b: ['controller', { position: 50 }],
      r: ['ring', { kind: 'amplitude' }],
    };
    expect(run(modules, ['a.out > r.a'], 'r.out', 0.1).at(-1)).toBeCloseTo(2, 9);
    expect(run(modules, ['a.out > r.a', 'b.out > r.b'], 'r.out', 0.1).at(-1)).toBeCloseTo(3, 9);
  });

  it('opens an exponential amplifier by 60 dB', () => {
    const gain = (position: number): number =>
      run(
        {
          a: ['controller', { position: 100 }],
          c: ['controller', { position }],
          v: ['amplifier', { curve: 'exponential' }],
        },
        ['a.out > v.in', 'c.out > v.cv'],
        'v.out',
        0.01,
      )[0]! / 5;
    expect(gain(100)).toBeCloseTo(1, 6);
    expect(gain(50)).toBeCloseTo((Math.sqrt(1000) - 1) / 999, 6);
    expect(gain(0)).toBe(0);
  });

  it('lets a wheel follow the player, within 10 ms and without a leap', () => {
    const graph = benchGraph(
      { w: ['controller', { position: 20, follows: 'wheel' }], out: ['output'] },
      [],
      'out',
    );
    expect(record(graph, 'w.out', 0.1)[100]).toBe(1);
  });
});

describe('a bend at each stroke', () => {
  it('begins at its depth and has 1 % left after its time', () => {
    const out = run(
      { k: ['keyboard'], b: ['bend', { depth: 24, time: 0.1 }] },
      ['k.trigger > b.trigger'],
      'b.out',
      0.5,
      { notes: [held(60, 0.3, 0.1)] },
    );
    expect(out[800]).toBe(2);
    expect(out[800 + 799]).toBeGreaterThan(0.02);
    expect(out[800 + 801]).toBeLessThan(0.02);
  });
});
