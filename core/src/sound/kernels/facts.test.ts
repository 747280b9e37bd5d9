import fc from 'fast-check';
import { catalogue, type ModuleKind, moduleSpec, type ModuleSpec } from '../../catalogue';
import { boundsOf } from '../../circuit/bounds';
import { closedAt } from '../../circuit/audibility';
import type { Graph } from '../../circuit/graph';
import { benchGraph, held, record } from '../../testing/bench';
import { runs } from '../../testing/runs';

// What the catalogue says of a kind is tried against what its kernel does: with parameters at random, something or nothing at
// each input, and keys or none.

type Params = Record<string, number | string>;
const kinds = Object.keys(catalogue) as ModuleKind[];
const RATE = 8000;

const paramsOf = (spec: ModuleSpec): fc.Arbitrary<Params> =>
  fc.record(
    Object.fromEntries(
      Object.entries(spec.params).map(([name, p]) => [
        name,
        p.kind === 'choice'
          ? fc.constantFrom(...p.choices)
          : fc.oneof(
              fc.constantFrom(p.default, p.neutral ?? p.lo),
              // Counts are whole numbers.
              p.unit === '' && Number.isInteger(p.lo) && p.hi > 1
                ? fc.integer({ min: p.lo, max: p.hi })
                : fc.double({ min: p.lo, max: p.hi, noNaN: true }),
            ),
      ]),
    ),
  );

const arrangementOf = (kind: ModuleKind) =>
  fc.record({
    kind: fc.constant(kind),
    params: paramsOf(moduleSpec(kind)),
    fed: fc.subarray(Object.keys(moduleSpec(kind).inputs)),
    notes: fc.constantFrom<ReturnType<typeof held>[]>([], [held(57, 0.02, 0, 90)]),
  });

const arrangement = fc
  .constantFrom(...kinds.filter((k) => k !== 'output'))
  .chain((kind) => arrangementOf(kind));

/** The module with a square that begins at once at the inputs that are fed, and with another wave at one of them. */
function bench(kind: ModuleKind, params: Params, fed: readonly string[], other?: string): Graph {
  return benchGraph(
    {
      a: ['lfo', { shape: 'square', rate: 90 }],
      b: ['lfo', { shape: 'sine', rate: 70 }],
      m: [kind, params],
      out: ['output'],
    },
    [
      ...fed.map((port) => `${port === other ? 'b' : 'a'}.out > m.${port}`),
      `m.${Object.keys(moduleSpec(kind).outputs)[0]} > out.in`,
    ],
    'out',
  );
}

const heard = (graph: Graph, port: string, notes: ReturnType<typeof held>[]) =>
  record(graph, `m.${port}`, 0.04, { sampleRate: RATE, notes });

describe('what the catalogue says of a kind', () => {
  it('is no closer than its kernel keeps to', () => {
    fc.assert(
      fc.property(arrangement, ({ kind, params, fed, notes }) => {
        const spec = moduleSpec(kind);
        const graph = bench(kind, params, fed);
        const bounds = boundsOf(graph, notes);
        for (const [port, signal] of Object.entries(spec.outputs)) {
          // Readings are no signals, and voices that no key has struck yet rest at 0 V.
          if (port === 'hz' || (signal === 'pitch' && kind === 'channels')) continue;
          const [lo, hi] = bounds.output('m', port);
          // Band-limited edges overshoot and filters ring: of sound only silence is promised.
          const wide = lo === 0 && hi === 0 ? 0 : signal === 'audio' ? Infinity : 1e-6;
          for (const v of heard(graph, port, notes)) {
            if (v < lo - wide || v > hi + wide)
              throw new Error(`${port}: ${v} V, not ${lo}..${hi}`);
          }
        }
      }),
      { numRuns: runs(400, 8000) },
    );
  });

  const closing = kinds.filter((kind) => moduleSpec(kind).closes);
  it.each(closing)('is true of inputs of %s that are said not to matter', (kind) => {
    fc.assert(
      fc.property(arrangementOf(kind), ({ params, fed, notes }) => {
        const graph = bench(kind, params, fed);
        const node = graph.nodes.find((n) => n.id === 'm')!;
        const bounds = boundsOf(graph, notes);
        const closed = fed.flatMap((port) => {
          const closing = closedAt(node, port, bounds);
          return closing ? [{ port, why: closing.why }] : [];
        });
        // Drawn anew until so many have one that is closed: none passes for want of any.
        fc.pre(closed.length > 0);
        const before = heard(graph, 'out', notes);
        for (const { port, why } of closed) {
          const other = bench(kind, params, fed, port);
          const moved = heard(other, 'out', notes).findIndex((v, i) => v !== before[i]);
          if (moved >= 0) throw new Error(`${port} ${why}, and moves sample ${moved}`);
        }
      }),
      { numRuns: runs(10, 200) },
    );
  });
});
