import { amplitudeAt, benchGraph, record } from '../../testing/bench';

const RATE = 8000;
const VOLTS = { a1: 1, a2: -2, a3: 3, a4: 0, b1: 0.5, b2: 0.25, c3: 4, last: 4 };
const runs = (
  params: Record<string, number>,
  wires: string[] = [],
  more: Parameters<typeof benchGraph>[0] = {},
) =>
  benchGraph(
    { m: ['rows', { ...VOLTS, ...params }], ...more, out: ['output'] },
    [...wires, 'm.wave > out.in'],
    'out',
  );
/** What stands in the middle of each tenth of a second. */
const tenths = (sound: Float64Array): number[] =>
  Array.from({ length: Math.floor(sound.length / 800) }, (_, i) => sound[800 * i + 400]!);

describe('rows of voltages', () => {
  it('go by their own clock, three at once, and begin again after the last', () => {
    const graph = runs({ rate: 10 });
    const row = (port: string) => tenths(record(graph, `m.${port}`, 0.6, { sampleRate: RATE }));
    expect(row('a')).toEqual([1, -2, 3, 0, 1, -2]);
    expect(row('b')).toEqual([0.5, 0.25, 0, 0, 0.5, 0.25]);
    expect(row('c')).toEqual([0, 0, 4, 0, 0, 0]);
  });

  it('open the gate for half a step, where a step opens it', () => {
    const gate = record(runs({ rate: 10, gate2: 0 }), 'm.gate', 0.4, { sampleRate: RATE });
    const at = [0, 1, 2, 3].map((i) => [gate[800 * i + 200], gate[800 * i + 600]]);
    expect(at).toEqual([
      [5, 0],
      [0, 0],
      [5, 0],
      [5, 0],
    ]);
  });

  it('go an octave a volt faster', () => {
    const graph = runs({ rate: 5 }, ['v.out > m.rate'], { v: ['offset', { volts: 1 }] });
    expect(tenths(record(graph, 'm.a', 0.4, { sampleRate: RATE }))).toEqual([1, -2, 3, 0]);
  });

  it('are led by a clock, and begin at its first stroke and after a reset', () => {
    const clock = { c: ['lfo', { shape: 'square', rate: 10 }] } as const;
    const graph = runs({ rate: 1000 }, ['c.out > m.clock'], { c: [...clock.c] });
    expect(tenths(record(graph, 'm.a', 0.6, { sampleRate: RATE }))).toEqual([1, -2, 3, 0, 1, -2]);
    const again = runs({}, ['c.out > m.clock', 'r.out > m.reset'], {
      c: [...clock.c],
      r: ['lfo', { shape: 'square', rate: 10 / 3, phase: 1 }],
    });
    const led = tenths(record(again, 'm.a', 0.6, { sampleRate: RATE }));
    expect(led).toEqual([1, -2, 3, 1, -2, 3]);
  });

  it('are a wave of their own when they are fast: its pitch, its harmonics, nothing between', () => {
    const graph = runs({ rate: 1760 });
    const sound = record(graph, 'm.wave', 1, { sampleRate: 48000 });
    const whole = sound.subarray(4800, 4800 + 43200);
    const level = (hz: number): number => (2 * amplitudeAt(whole, hz)) / whole.length;
    // Fourier series of the four steps of 1, -2, 3, 0 V.
    const volts = [1, -2, 3, 0];
    for (const h of [1, 2, 3, 5, 9]) {
      const [re, im] = [0, 1].map((q) =>
        volts.reduce((sum, v, i) => {
          const [a, b] = [(2 * Math.PI * h * i) / 4, (2 * Math.PI * h * (i + 1)) / 4];
          return sum + v * (q === 0 ? Math.sin(b) - Math.sin(a) : Math.cos(a) - Math.cos(b));
        }, 0),
      ) as [number, number];
      expect(level(440 * h)).toBeCloseTo(Math.hypot(re, im) / (Math.PI * h), 3);
    }
    for (const hz of [300, 700, 5550, 11110]) expect(level(hz)).toBeLessThan(1e-4);
  });
});
