import fc from 'fast-check';
import { directions, stepAt } from '../../pattern';
import { benchGraph, held, record } from '../../testing/bench';
import { runs } from '../../testing/runs';

const graphOf = (
  modules: Parameters<typeof benchGraph>[0],
  wires: string[],
): ReturnType<typeof benchGraph> => benchGraph({ ...modules, out: ['output'] }, wires, 'out');

describe('pitch converters', () => {
  it('turn octaves into ratios: two octaves up are four times the volts', () => {
    const graph = graphOf({ o: ['offset', { volts: 2 }], c: ['to-hz-volt', { base: 0.5 }] }, [
      'o.out > c.in',
    ]);
    expect(record(graph, 'c.out', 0.01).at(-1)).toBeCloseTo(2, 9);
  });

  it('undo each other', () => {
    fc.assert(
      fc.property(fc.double({ min: -4, max: 3, noNaN: true }), (volts) => {
        const graph = graphOf(
          {
            o: ['offset', { volts }],
            a: ['to-hz-volt', { base: 1 }],
            b: ['from-hz-volt', { base: 1 }],
          },
          ['o.out > a.in', 'a.out > b.in'],
        );
        expect(record(graph, 'b.out', 0.005).at(-1)).toBeCloseTo(volts, 6);
      }),
      { numRuns: runs(25), endOnFailure: true },
    );
  });

  it('take 0 V for as low as it gets: it is never a note', () => {
    const graph = graphOf({ c: ['from-hz-volt'] }, []);
    expect(record(graph, 'c.out', 0.005).at(-1)).toBe(-10);
  });
});

/** Volts of a row at the middle of each of the first clocks, a quarter note of 120 bpm apart. */
function walked(direction: string, last: number, clocks: number, seed = 1): number[] {
  const volts = Object.fromEntries([1, 2, 3, 4, 5, 6, 7, 8].map((i) => [`volts${i}`, i]));
  const graph = graphOf({ c: ['clock', { beats: 1 }], r: ['row', { ...volts, last, direction }] }, [
    'c.out > r.clock',
  ]);
  const sound = record(graph, 'r.out', clocks * 0.5, { tempo: 120, seed, notes: [] });
  return Array.from({ length: clocks }, (_, k) => sound[Math.round((k + 0.25) * 24000)]!);
}

describe('a row of voltages', () => {
  it('goes forward and begins again after its last step', () => {
    expect(walked('forward', 3, 7)).toEqual([1, 2, 3, 1, 2, 3, 1]);
  });
  it('goes back from its last step', () => {
    expect(walked('back', 3, 5)).toEqual([3, 2, 1, 3, 2]);
  });
  it.each(directions.filter((d) => d !== 'random'))('goes %s as a pattern does', (direction) => {
    for (const last of [1, 2, 3, 4, 8])
      expect(walked(direction, last, 20)).toEqual(
        Array.from({ length: 20 }, (_, k) => stepAt(k, last, direction) + 1),
      );
  });
  it('draws random steps the same for the same seed, and reaches all of them', () => {
    const first = walked('random', 4, 40);
    expect(walked('random', 4, 40)).toEqual(first);
    expect(walked('random', 4, 40, 2)).not.toEqual(first);
    expect(new Set(first)).toEqual(new Set([1, 2, 3, 4]));
  });

  it('swings: of each pair of clocks the second comes late, to the sample', () => {
    // Sixteenths at 120 bpm, 58 %: the second 145 ms after the first.
    const graph = graphOf({ c: ['clock', { beats: 0.25, swing: 58 }] }, []);
    const sound = record(graph, 'c.out', 0.5, { tempo: 120, notes: [] });
    const opens = [...sound].flatMap((v, i) => (v > 2.5 && !(sound[i - 1]! > 2.5) ? [i] : []));
    expect(opens).toEqual([0, 6960, 12000, 18960]);
  });

  it('passes the clock on as its gate', () => {
    const graph = graphOf({ c: ['clock', { beats: 1 }], r: ['row'] }, ['c.out > r.clock']);
    const gate = record(graph, 'r.gate', 1, { tempo: 120, notes: [] });
    expect([gate[1000], gate[20000], gate[25000]]).toEqual([5, 0, 5]);
  });
});

describe('a zone of the keyboard', () => {
  const graph = graphOf({ z: ['key-range', { from: 48, to: 59, transpose: 12 }] }, []);

  it('answers to its own keys only', () => {
    const notes = [held(60, 0.2, 0), held(50, 0.2, 0.3, 127)];
    const gate = record(graph, 'z.gate', 0.6, { notes });
    expect([gate[4800], gate[16800], gate[26400]]).toEqual([0, 5, 0]);
    const pitch = record(graph, 'z.pitch', 0.6, { notes });
    expect(pitch[16800]).toBeCloseTo((50 - 60 + 12) / 12, 9);
    const strokes = record(graph, 'z.trigger', 0.6, { notes }).filter((v) => v > 0);
    expect(strokes).toHaveLength(1);
  });
});

describe('channels that share the keys', () => {
  const notes = [held(60, 0.4, 0), held(64, 0.4, 0.1), held(67, 0.4, 0.2), held(60, 0.1, 0.7)];
  const pitches = (rule: string, at: number): number[] =>
    [1, 2, 3, 4].map((c) => {
      const graph = graphOf({ k: ['channels', { rule, channels: 3 }] }, []);
      return record(graph, `k.pitch${c}`, 0.8, { notes })[Math.round(at * 48000)]! * 12 + 60;
    });

  it('take turns in rotation, whoever is free', () => {
    expect(pitches('rotation', 0.3)).toEqual([60, 64, 67, 60]);
    expect(pitches('rotation', 0.75)[0]).toBe(60);
  });
  it('give each key its own', () => {
    expect(pitches('each', 0.3)).toEqual([60, 64, 67, 60]);
  });
  it('all play the last key in unison, and those beyond their number none', () => {
    expect(pitches('unison', 0.3)).toEqual([67, 67, 67, 60]);
  });
  it('close the gate of the channel whose key is let go', () => {
    const gates = [1, 2].map((c) => {
      const graph = graphOf({ k: ['channels', { rule: 'each' }] }, []);
      return record(graph, `k.gate${c}`, 0.8, { notes })[Math.round(0.45 * 48000)];
    });
    expect(gates).toEqual([0, 5]);
  });
});
