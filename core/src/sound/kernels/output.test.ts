import { benchGraph, record } from '../../testing/bench';

const RATE = 48000;
const through = (volts: number, level: number, seconds: number): Float64Array =>
  record(
    benchGraph({ v: ['offset', { volts }], out: ['output', { level }] }, ['v.out > out.in'], 'out'),
    'out.out',
    seconds,
    { notes: [] },
  );

describe('the output sockets', () => {
  it('let go of direct current, with a corner at 3 Hz', () => {
    const out = through(5, 1, 1);
    for (const t of [0.01, 0.05, 0.1, 0.2]) {
      expect(out[t * RATE]! / 5).toBeCloseTo(Math.exp(-2 * Math.PI * 3 * t), 4);
    }
    expect(Math.abs(out.at(-1)!)).toBeLessThan(1e-6);
  });

  it('stand behind their level: it is heard as a factor', () => {
    const [full, half] = [through(5, 1, 0.1), through(5, 0.5, 0.1)];
    half.forEach((v, i) => expect(v).toBeCloseTo(full[i]! / 2, 12));
  });

  it.each([20, 40, 100])('take next to nothing from %p Hz', (hz) => {
    const graph = benchGraph(
      { l: ['lfo', { rate: hz, shape: 'sine' }], out: ['output'] },
      ['l.out > out.in'],
      'out',
    );
    const [before, after] = ['l.out', 'out.out'].map((port) =>
      Math.hypot(...record(graph, port, 2, { notes: [] }).subarray(RATE, RATE + 24000)),
    );
    const loss = 10 * Math.log10(1 + (3 / hz) ** 2);
    expect(20 * Math.log10(before! / after!)).toBeCloseTo(loss, 2);
  });

  it('give each side its own', () => {
    const graph = benchGraph(
      { v: ['offset', { volts: 2 }], out: ['output'] },
      ['v.out > out.left'],
      'out',
    );
    const port = (name: string): number =>
      record(graph, `out.${name}`, 1 / RATE, { notes: [] })[0]!;
    expect(['left', 'right', 'out'].map(port)).toEqual([2, 0, 1]);
  });
});
