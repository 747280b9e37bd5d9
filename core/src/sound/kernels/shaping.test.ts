import type { ModuleKind } from '../../catalogue/index';
import { SCALES } from '../../catalogue/shaping';
import { amplitudeAt, benchGraph, record } from '../../testing/bench';

const RATE = 8000;
type Params = Record<string, number | string>;
/** A module with voltages at its inputs, measured when it has settled. */
const settled = (
  kind: ModuleKind,
  params: Params,
  fed: Record<string, number>,
  port = 'out',
  seconds = 0.02,
): number => {
  const ports = Object.entries(fed);
  const graph = benchGraph(
    {
      ...Object.fromEntries(
        ports.map(([name, volts]) => [name, ['offset', { volts }] as [ModuleKind, Params]]),
      ),
      m: [kind, params],
      end: ['output'],
    },
    ports.map(([name]) => `${name}.out > m.${name}`),
    'end',
  );
  return record(graph, `m.${port}`, seconds, { sampleRate: RATE }).at(-1)!;
};

describe('a quantiser', () => {
  it.each(Object.keys(SCALES))('holds every voltage to the nearest note: %s', (scale) => {
    for (const root of [0, 3]) {
      for (let semitones = -25; semitones <= 25; semitones += 0.37) {
        const all = [-3, -2, -1, 0, 1, 2, 3].flatMap((o) =>
          SCALES[scale]!.map((n) => 12 * o + n + root),
        );
        const nearest = Math.min(...all.map((n) => Math.abs(n - semitones)));
        const out =
          12 * settled('quantiser', { scale, root }, { in: semitones / 12 }, 'out', 0.001);
        expect(Math.abs(out - semitones)).toBeCloseTo(nearest, 6);
        expect(all.some((n) => Math.abs(n - out) < 1e-6)).toBe(true);
      }
    }
  });

  it('does not flicker where a voltage trembles between two notes', () => {
    const graph = benchGraph(
      {
        l: ['lfo', { shape: 'triangle', rate: 50 }],
        a: ['attenuator', { gain: 0.0015 }],
        o: ['offset', { volts: 0.5 / 12 }],
        q: ['quantiser'],
        end: ['output'],
      },
      ['l.out > a.in', 'a.out > o.in', 'o.out > q.in'],
      'end',
    );
    const out = record(graph, 'q.out', 0.5, { sampleRate: RATE });
    expect(new Set(out.subarray(10)).size).toBe(1);
  });
});

describe('what shapes voltages', () => {
  it.each([
    ['whole', 3, 3],
    ['whole', -3, 3],
    ['upper', 3, 3],
    ['upper', -3, 0],
    ['lower', 3, 0],
    ['lower', -3, -3],
  ])('rectifies: the %s side of %d V is %d V', (side, volts, wanted) => {
    expect(settled('rectifier', { side }, { in: volts })).toBeCloseTo(wanted, 9);
  });

  it('makes of a sine what its Fourier series says: mean 2/pi, twice the pitch 4/(3 pi)', () => {
    const graph = benchGraph(
      { o: ['lfo', { shape: 'sine', rate: 100 }], r: ['rectifier'], end: ['output'] },
      ['o.out > r.in'],
      'end',
    );
    const rate = 48000;
    const sound = record(graph, 'r.out', 0.2, { sampleRate: rate }).subarray(480, 480 + 48 * 100);
    const mean = sound.reduce((a, b) => a + b, 0) / sound.length;
    expect(mean).toBeCloseTo((5 * 2) / Math.PI, 2);
    expect((2 * amplitudeAt(sound, 200, rate)) / sound.length).toBeCloseTo(
      (5 * 4) / (3 * Math.PI),
      1,
    );
  });

  it('tells the higher from the lower', () => {
    expect(settled('extremes', {}, { a: 2, b: -1 }, 'high')).toBe(2);
    expect(settled('extremes', {}, { a: 2, b: -1 }, 'low')).toBe(-1);
  });

  it('follows how loud a sound is, and opens a gate above so much', () => {
    const at = (port: string, seconds: number, volts = 4): number =>
      settled('follower', { rise: 0.1, threshold: 2 }, { in: volts }, port, seconds);
    expect(at('out', 0.1)).toBeCloseTo(4 * 0.99, 2);
    expect(at('out', 2, -4)).toBeCloseTo(4, 6);
    expect([at('gate', 0.002), at('gate', 0.1), at('gate', 0.5, 1.5)]).toEqual([0, 5, 0]);
  });

  it.each([
    ['even', 25, 0, 0.75 * 4 + 0.25 * -2],
    ['equal', 25, 0, Math.cos(Math.PI / 8) * 4 + Math.sin(Math.PI / 8) * -2],
    ['even', 25, 5, -2],
    ['even', 75, -5, 4],
  ])('goes from one sound to another: %s, %d %% and %d V', (law, position, cv, wanted) => {
    expect(settled('crossfade', { law, position }, { a: 4, b: -2, cv })).toBeCloseTo(wanted, 6);
  });

  it.each([
    [0, 0, 1, 1],
    [-100, 0, Math.SQRT2, 0],
    [0, 5, 0, Math.SQRT2],
    [-100, 5, 1, 1],
  ])('stands between left and right: %d %% and %d V', (position, cv, left, right) => {
    const side = (port: string): number => settled('pan', { position }, { in: 3, cv }, port);
    expect(side('left')).toBeCloseTo(3 * left, 6);
    expect(side('right')).toBeCloseTo(3 * right, 6);
    expect(side('left') ** 2 + side('right') ** 2).toBeCloseTo(18, 6);
  });

  it('mixes as far as voltages open it; without one a channel stands open', () => {
    const fed = { in1: 2, in2: 3, cv2: 2.5, in3: 4, cv3: -1 };
    expect(settled('voltage-mixer', { gain2: 0.5 }, fed)).toBeCloseTo(2 + 0.5 * 0.5 * 3, 9);
  });
});
