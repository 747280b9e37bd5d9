import fc from 'fast-check';
import { compile } from '../circuit';
import { peakOf } from '../measure/level';
import { anyPanel, initWith, sluice } from '../testing/sluice';
import { benchGraph, held, record } from '../testing/bench';
import { render } from './render';
import { runs } from '../testing/runs';

const notes = [held(45, 0.2), held(57, 0.2, 0.1)];

describe('rendering', () => {
  it('gives the same samples for the same seed, others for another', () => {
    const graph = compile(sluice, initWith({ 'osc1-shape': 'noise' }));
    const options = { sampleRate: 48000, seconds: 0.2, notes };
    expect(render(graph, options).samples).toEqual(render(graph, options).samples);
    expect(render(graph, { ...options, seed: 2 }).samples).not.toEqual(
      render(graph, options).samples,
    );
  });

  it('is as long as was asked for, and stops when it is told to', () => {
    const graph = compile(sluice, initWith());
    expect(render(graph, { sampleRate: 44100, seconds: 0.1234, notes }).samples.length).toBe(
      Math.round(44100 * 0.1234),
    );
    const stopped = render(graph, { sampleRate: 48000, seconds: 1, notes, cancelled: () => true });
    expect(peakOf(stopped.samples)).toBe(0);
  });

  it('stays bounded at every extreme of the panel', () => {
    fc.assert(
      fc.property(anyPanel, fc.constantFrom('board-a', 'board-b'), (values, revision) => {
        const graph = compile(sluice, initWith(values, { revision }));
        const peak = peakOf(render(graph, { sampleRate: 48000, seconds: 0.25, notes }).samples);
        // 10 V is 1; the two-pole board at full resonance lifts a partial by a factor of 25.
        expect(Number.isFinite(peak)).toBe(true);
        expect(peak).toBeLessThan(25 * 1.5);
      }),
      { numRuns: runs(40) },
    );
  });

  it('is silent before the first key and after the last release', () => {
    const graph = compile(sluice, initWith({ 'env1-release': 0 }));
    const { samples } = render(graph, {
      sampleRate: 48000,
      seconds: 1,
      notes: [held(45, 0.3, 0.2)],
    });
    expect(peakOf(samples.subarray(0, 0.2 * 48000 - 1))).toBe(0);
    // What the capacitor before the sockets holds is gone after a few of its times, of 53 ms.
    expect(peakOf(samples.subarray(0.6 * 48000))).toBeLessThan(1e-3);
    expect(peakOf(samples.subarray(0.95 * 48000))).toBeLessThan(1e-6);
  });
});

describe('small modules', () => {
  const through = (kind: 'ring' | 'mixer', wires: string[], params = {}) =>
    record(
      benchGraph(
        {
          a: ['controller', { position: 80 }],
          b: ['controller', { position: 50 }],
          m: [kind, params],
          out: ['output'],
        },
        wires,
        'out',
      ),
      'm.out',
      0.01,
    ).at(-1);

  it('multiplies over 5 V', () =>
    expect(through('ring', ['a.out > m.a', 'b.out > m.b'])).toBeCloseTo(2, 9));

  it('adds what goes into one port, and channels by their gain', () => {
    expect(through('mixer', ['a.out > m.in1', 'b.out > m.in1'], { gain1: 1 })).toBeCloseTo(6.5, 9);
    expect(
      through('mixer', ['a.out > m.in1', 'b.out > m.in2'], { gain1: 0.5, gain2: 2 }),
    ).toBeCloseTo(7, 9);
  });

  it('opens an amplifier in proportion, and takes away what velocity lacks', () => {
    const graph = (velocity: number) =>
      benchGraph(
        {
          keys: ['keyboard'],
          a: ['controller', { position: 80 }],
          b: ['controller', { position: 50 }],
          amp: ['amplifier', { velocity }],
          out: ['output'],
        },
        ['a.out > amp.in', 'b.out > amp.cv', 'keys.velocity > amp.velocity'],
        'out',
      );
    const soft = [held(60, 1, 0, 64)];
    expect(record(graph(0), 'amp.out', 0.01, { notes: soft })[0]).toBeCloseTo(2, 9);
    expect(record(graph(50), 'amp.out', 0.01, { notes: soft })[0]).toBeCloseTo(
      2 * (0.5 + 0.5 * (64 / 127)),
      9,
    );
  });

  it('overloads towards its ceiling, made up by the root of the gain, and is clean with none', () => {
    const driven = (gain: number): number =>
      record(
        benchGraph(
          { a: ['controller', { position: 100 }], d: ['drive', { gain }], out: ['output'] },
          ['a.out > d.in'],
          'out',
        ),
        'd.out',
        0.01,
      ).at(-1)!;
    const ceiling = (8 * 100) / 99;
    const u = (100 * 5) / ceiling;
    expect(driven(40)).toBeCloseTo((ceiling / 10) * (u / Math.hypot(1, u)), 6);
    expect(driven(0)).toBe(5);
    expect(driven(0.01)).toBeCloseTo(5, 2);
  });
});
