import fc from 'fast-check';
import { catalogue, type ModuleKind, moduleSpec, type NumberParam } from '../catalogue';
import { movedBy } from '../catalogue/by-voltage';
import { boundsOf } from '../circuit/bounds';
import { benchGraph, held, record } from '../testing/bench';
import { runs } from '../testing/runs';

const RATE = 8000;
const kinds = (Object.keys(catalogue) as ModuleKind[]).filter((k) => moduleSpec(k).byVoltage);
/** Every kind, each of its inputs that move something. */
const places = kinds.flatMap((kind) =>
  Object.entries(moduleSpec(kind).byVoltage!).map(([port, how]) => ({ kind, port, how })),
);

/** A module that hears a saw (or keys), with a steady voltage at one input, or none. */
function sound(
  kind: ModuleKind,
  params: Record<string, number | string>,
  port: string | null,
  volts: number,
): Float64Array {
  const spec = moduleSpec(kind);
  const fed = Object.keys(spec.inputs).filter((p) => /^(in|in1|left|gate|trigger)$/.test(p));
  const graph = benchGraph(
    {
      l: ['lfo', { shape: 'ramp-up', rate: 130 }],
      v: ['offset', { volts }],
      m: [kind, params],
      out: ['output'],
    },
    [
      ...fed.map((p) => `l.out > m.${p}`),
      ...(port ? [`v.out > m.${port}`] : []),
      `m.${Object.keys(spec.outputs)[0]} > out.in`,
    ],
    'out',
  );
  return record(graph, 'out.out', 0.05, { sampleRate: RATE });
}

describe('a voltage that moves a parameter', () => {
  it('does what its control does where the voltage takes it, on every module that has such an input', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...places),
        fc.double({ min: -6, max: 6, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        ({ kind, port, how }, volts, at) => {
          const before: Record<string, number> = {};
          const after: Record<string, number> = {};
          for (const param of how.params) {
            const about = moduleSpec(kind).params[param] as NumberParam;
            before[param] = about.lo + at * (about.hi - about.lo);
            after[param] = movedBy(before[param], about, [{ volts, by: how.by }]);
          }
          const moved = sound(kind, before, port, volts);
          expect(moved).toEqual(sound(kind, after, null, 0));
        },
      ),
      { numRuns: runs(300, 5000) },
    );
  });

  it('is held within the range of the parameter, and counts in octaves or in units', () => {
    const range = { lo: 0.01, hi: 10 };
    expect(movedBy(1, range, [{ volts: 2, by: 'octaves' }])).toBe(4);
    expect(movedBy(1, range, [{ volts: -1, by: 0.5 }])).toBe(0.5);
    expect(movedBy(1, range, [{ volts: 9, by: 'octaves' }])).toBe(10);
    expect(movedBy(1, range, [{ volts: -9, by: 1 }])).toBe(0.01);
    expect(
      movedBy(1, range, [
        { volts: 1, by: 'octaves' },
        { volts: 3, by: 1 },
      ]),
    ).toBe(5);
  });

  it('moves each voice for itself', () => {
    // The harder a key is struck, the longer its envelope rings.
    const graph = benchGraph(
      {
        v: ['voices', { voices: 2 }],
        e: ['envelope', { mode: 'ad', attack: 0.001, decay: 0.05 }],
        out: ['output'],
      },
      ['v.gate > e.gate', 'v.velocity > e.decay', 'e.out > out.in'],
      'out',
    );
    const notes = [held(60, 1, 0, 127), held(64, 1, 0, 25)];
    const left = (voice: number): number =>
      record(graph, 'e.out', 0.2, { sampleRate: RATE, notes }, voice).at(-1)!;
    expect(left(0)).toBeGreaterThan(100 * left(1));
  });

  it('opens what stands closed: its bounds say so', () => {
    const graph = benchGraph(
      {
        o: ['oscillator'],
        v: ['offset', { volts: 5 }],
        m: ['mixer', { gain1: 0 }],
        out: ['output'],
      },
      ['o.out > m.in1', 'v.out > m.gain1', 'm.out > out.in'],
      'out',
    );
    expect(boundsOf(graph, []).output('m', 'out')).toEqual([-5, 5]);
    expect(Math.max(...record(graph, 'm.out', 0.05, { sampleRate: RATE }))).toBeGreaterThan(4);
  });
});
