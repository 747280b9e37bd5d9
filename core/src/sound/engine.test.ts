import fc from 'fast-check';
import { catalogue, isModuleKind, type ModuleKind, moduleSpec } from '../catalogue';
import type { Graph } from '../circuit/graph';
import { peakOf } from '../measure/level';
import { benchGraph, held, record } from '../testing/bench';
import { createEngine } from './engine';
import { Act } from './key-feed';
import { BLOCK } from './kernel';
import { runs } from '../testing/runs';

const RATE = 48000;
const kinds = Object.keys(catalogue).filter(isModuleKind);

/** Every parameter of every kind somewhere, often at an end of its range. */
const anyModule = (kind: ModuleKind): fc.Arbitrary<Record<string, number | string>> =>
  fc.record(
    Object.fromEntries(
      Object.entries(moduleSpec(kind).params).map(([name, p]) => [
        name,
        p.kind === 'choice'
          ? fc.constantFrom(...p.choices)
          : name === 'voices'
            ? fc.constantFrom(1, 2)
            : fc.oneof(
                fc.constantFrom(p.lo, p.hi),
                fc.double({ min: p.lo, max: p.hi, noNaN: true }),
              ),
      ]),
    ),
  );

/** A cabinet of a dozen modules of any kind, wired at random, circles and all. */
const anyCabinet: fc.Arbitrary<Graph> = fc
  .array(fc.constantFrom(...kinds.filter((k) => k !== 'output')), { minLength: 4, maxLength: 9 })
  .chain((chosen) =>
    fc
      .tuple(
        fc.tuple(...chosen.map(anyModule)),
        fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat(), fc.nat()), { minLength: 8, maxLength: 40 }),
        fc.double({ min: 0, max: 2, noNaN: true }),
      )
      .map(([params, cords, level]) => {
        const modules: Record<string, [ModuleKind, Record<string, number | string>]> = {};
        chosen.forEach((kind, i) => (modules[`m${i}`] = [kind, params[i]!]));
        modules.out = ['output', { level }];
        const ids = Object.keys(modules);
        const wires = cords.flatMap(([a, b, p, q]) => {
          const from = ids[a % chosen.length]!;
          const to = ids[b % ids.length]!;
          const outs = Object.keys(moduleSpec(modules[from]![0]).outputs).filter((o) => o !== 'hz');
          const ins = Object.keys(moduleSpec(modules[to]![0]).inputs);
          if (outs.length === 0 || ins.length === 0) return [];
          return [`${from}.${outs[p % outs.length]} > ${to}.${ins[q % ins.length]}`];
        });
        return benchGraph(modules, wires, 'out');
      }),
  );

describe('everything is bounded', () => {
  it('any modules, wired anyhow, at any extremes: no NaN, nothing over 20 V at the output', () => {
    fc.assert(
      fc.property(anyCabinet, (graph) => {
        const engine = createEngine(graph, { sampleRate: RATE });
        for (let block = 0; block < 160; block++) {
          if (block % 40 === 0) engine.play(Act.press, 30 + (block % 60), 1 + (block % 127));
          if (block % 60 === 30) engine.play(Act.release, 30 + ((block - 30) % 60), 0);
          if (block % 70 === 0) engine.play(Act.bend, 0, block % 140 ? 1 : -1);
          if (block % 90 === 0) engine.play(Act.wheel, 0, (block % 180) / 90);
          engine.advance(BLOCK);
          for (const side of ['left', 'right', 'out']) {
            for (const v of engine.port('out', side)) {
              if (!(v <= 20 && v >= -20)) throw new Error(`${v} V at ${side} in block ${block}`);
            }
          }
        }
      }),
      { numRuns: runs(100), endOnFailure: true },
    );
  });

  it('turning everything to its ends while it plays changes none of that', () => {
    fc.assert(
      fc.property(anyCabinet, fc.infiniteStream(fc.nat()), (graph, stream) => {
        const engine = createEngine(graph, { sampleRate: RATE });
        engine.play(Act.press, 45, 100);
        for (let block = 0; block < 120; block++) {
          const node = graph.nodes[stream.next().value! % graph.nodes.length]!;
          const numbers = Object.entries(moduleSpec(node.kind).params).flatMap(([name, p]) =>
            p.kind === 'number' ? [[name, p] as const] : [],
          );
          const found = numbers[stream.next().value! % Math.max(1, numbers.length)];
          if (found) engine.turn(node.id, found[0], block % 2 ? found[1].lo : found[1].hi);
          engine.advance(BLOCK);
          for (const v of engine.port('out', 'out')) {
            if (!(v <= 20 && v >= -20)) throw new Error(`${v} V in block ${block}`);
          }
        }
      }),
      { numRuns: runs(100), endOnFailure: true },
    );
  });
});

const lead = (params: Record<string, number | string> = {}): Graph =>
  benchGraph(
    {
      keys: ['keyboard'],
      o: ['oscillator', { wave: 'saw' }],
      f: ['low-pass-24', { cutoff: 900, resonance: 0.3, ...params }],
      e: ['envelope', { release: 0.05 }],
      a: ['amplifier'],
      out: ['output', { level: 0.5 }],
    },
    [
      'keys.pitch1 > o.pitch',
      'keys.gate > e.gate',
      'keys.trigger > e.trigger',
      'o.out > f.in',
      'f.out > a.in',
      'e.out > a.cv',
      'a.out > out.in',
    ],
    'out',
  );

describe('a turned control', () => {
  const play = (turn: (engine: ReturnType<typeof createEngine>) => void): Float64Array => {
    const engine = createEngine(lead(), { sampleRate: RATE, notes: [held(57)] });
    const out = new Float64Array(200 * BLOCK);
    for (let b = 0; b < 200; b++) {
      if (b === 100) turn(engine);
      engine.advance(BLOCK);
      out.set(engine.port('out', 'out'), b * BLOCK);
    }
    return out;
  };
  const still = play(() => undefined);

  it('is heard within two blocks', () => {
    for (const [node, param, value] of [
      ['f', 'cutoff', 3000],
      ['f', 'resonance', 0.8],
      ['out', 'level', 1],
      ['o', 'fine', 50],
    ] as const) {
      const turned = play((engine) => engine.turn(node, param, value));
      const first = turned.findIndex((v, i) => v !== still[i]);
      expect(first).toBeGreaterThanOrEqual(100 * BLOCK);
      expect(first).toBeLessThan(102 * BLOCK);
    }
  });

  it('arrives within 10 ms, in steps that do not click', () => {
    const turned = play((engine) => engine.turn('out', 'level', 1));
    const ratio = (i: number): number => turned[i]! / still[i]!;
    // Where the sound itself is not near nothing the gain can be read off.
    const clear = [...still.keys()].filter((i) => Math.abs(still[i]!) > 0.3);
    const there = clear.filter((i) => i > 100 * BLOCK + 0.01 * RATE);
    expect(there.length).toBeGreaterThan(1000);
    expect(Math.max(...there.map((i) => Math.abs(ratio(i) - 2)))).toBeLessThan(5e-10);
    const steps = clear.flatMap((b, k) => {
      const a = clear[k - 1];
      return a === b - 1 ? [Math.abs(ratio(b) - ratio(a))] : [];
    });
    expect(steps.length).toBeGreaterThan(1000);
    expect(Math.max(...steps)).toBeLessThan(1 / (0.006 * RATE));
  });
});

describe('going on from another engine', () => {
  it('keeps what the modules remember: the same graph goes on as if nothing had happened', () => {
    const options = { sampleRate: RATE, notes: [held(57, 0.1)] };
    const whole = record(lead(), 'out.out', 0.4, options);
    let engine = createEngine(lead(), options);
    const out = new Float64Array(whole.length);
    for (let at = 0; at < out.length; at += BLOCK) {
      if (at === 10 * BLOCK) {
        const next = createEngine(lead(), { sampleRate: RATE, after: engine });
        // The key that is held goes on; letting it go is played to the new one.
        engine = next;
      }
      if (at === 75 * BLOCK) engine.play(Act.release, 57, 0);
      engine.advance(BLOCK);
      out.set(engine.port('out', 'out').subarray(0, Math.min(BLOCK, out.length - at)), at);
    }
    expect([...out.subarray(0, 75 * BLOCK)]).toEqual([...whole.subarray(0, 75 * BLOCK)]);
  });
});

describe('circles', () => {
  it('are computed sample by sample: a module that feeds itself is one sample late', () => {
    const graph = benchGraph(
      { one: ['offset', { volts: 1 }], out: ['output'] },
      ['one.out > one.in', 'one.out > out.in'],
      'out',
    );
    // 1, 2, 3 ... up to where the supply ends.
    expect([...record(graph, 'one.out', 22 / RATE, { notes: [] })]).toEqual(
      Array.from({ length: 22 }, (_, i) => Math.min(20, i + 1)),
    );
  });

  it('hard sync either way round makes no circle of two oscillators', () => {
    const graph = (first: string, second: string): Graph =>
      benchGraph(
        {
          keys: ['keyboard'],
          a: ['oscillator', { sync: first }],
          b: ['oscillator', { sync: second, interval: 7 }],
          out: ['output'],
        },
        [
          'keys.pitch1 > a.pitch',
          'keys.pitch1 > b.pitch',
          'a.sync > b.sync',
          'b.sync > a.sync',
          'a.out > out.in',
        ],
        'out',
      );
    const free = record(graph('off', 'off'), 'a.out', 0.1);
    expect(record(graph('off', 'on'), 'a.out', 0.1)).toEqual(free);
    expect(record(graph('on', 'off'), 'a.out', 0.1)).not.toEqual(free);
  });

  it('soft sync starts anew only near the end of a cycle', () => {
    const graph = (sync: string, soft: number): Graph =>
      benchGraph(
        {
          keys: ['keyboard'],
          a: ['oscillator'],
          b: ['oscillator', { sync, soft, interval: 3.7 }],
          out: ['output'],
        },
        ['keys.pitch1 > a.pitch', 'keys.pitch1 > b.pitch', 'a.sync > b.sync', 'b.out > out.in'],
        'out',
      );
    const sound = (sync: string, soft: number) => record(graph(sync, soft), 'b.out', 0.1);
    const apart = (a: Float64Array, b: Float64Array): number =>
      a.reduce((most, v, i) => Math.max(most, Math.abs(v - b[i]!)), 0);
    expect(apart(sound('soft', 0), sound('off', 0))).toBeLessThan(1e-9);
    expect(apart(sound('soft', 100), sound('on', 0))).toBeLessThan(1e-9);
    expect(apart(sound('soft', 30), sound('on', 0))).toBeGreaterThan(1);
    expect(apart(sound('soft', 30), sound('off', 0))).toBeGreaterThan(1);
  });
});

describe('silence', () => {
  it('when the gates are down and nothing whistles, whatever effects follow', () => {
    const graph = benchGraph(
      {
        keys: ['keyboard'],
        o: ['oscillator'],
        f: ['low-pass-24', { cutoff: 900, resonance: 0.85 }],
        e: ['envelope', { release: 0.05 }],
        a: ['amplifier'],
        c: ['chorus'],
        d: ['delay', { feedback: 60 }],
        r: ['reverb', { decay: 1 }],
        out: ['output'],
      },
      [
        'keys.pitch1 > o.pitch',
        'keys.gate > e.gate',
        'o.out > f.in',
        'f.out > a.in',
        'e.out > a.cv',
        'a.out > c.in',
        'c.left > d.left',
        'c.right > d.right',
        'd.left > r.left',
        'd.right > r.right',
        'r.left > out.left',
        'r.right > out.right',
      ],
      'out',
    );
    const sound = record(graph, 'out.out', 20, { notes: [held(50, 0.3)] });
    expect(peakOf(sound.subarray(0.1 * RATE, 0.4 * RATE))).toBeGreaterThan(0.5);
    expect(peakOf(sound.subarray(19 * RATE))).toBeLessThan(1e-6);
  });
});

it('hears what comes from outside', () => {
  const graph = benchGraph(
    { x: ['external'], out: ['output'] },
    ['x.left > out.left', 'x.right > out.right'],
    'out',
  );
  const external = [new Float32Array([0.5, 0.25]), new Float32Array([0, -0.5])] as const;
  expect([...record(graph, 'x.left', 3 / RATE, { external })]).toEqual([5, 2.5, 0]);
  expect([...record(graph, 'x.right', 3 / RATE, { external })]).toEqual([0, -5, 0]);
  // The sockets take away what stands still, within so short a time next to nothing.
  const [first, second] = record(graph, 'out.left', 3 / RATE, { external });
  expect(first).toBe(5);
  expect(second! / 2.5).toBeCloseTo(1, 2);
});
