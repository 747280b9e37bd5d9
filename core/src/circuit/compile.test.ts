import fc from 'fast-check';
import { render } from '../sound';
import { anyPanel, initWith, sluice } from '../testing/sluice';
import { boundsOf } from './bounds';
import { moduleSpec } from '../catalogue';
import { compile } from './compile';
import { edgesInto, nodeOf, sortNodes } from './graph';
import { prune } from './prune';
import { runs } from '../testing/runs';

const notes = [
  { start: 0, duration: 0.1, note: 45, velocity: 90 },
  { start: 0.05, duration: 0.1, note: 57, velocity: 120 },
];

describe('compiling a panel', () => {
  it('turns readings into physical parameters', () => {
    const graph = compile(
      sluice,
      initWith({ cutoff: 0.35, 'osc1-octave': 'f16', 'env1-attack': 0.5, 'mix-osc1': 0.7 }),
    );
    expect(nodeOf(graph, 'filter').params['cutoff']).toBeCloseTo(224.4, 2);
    expect(nodeOf(graph, 'osc1').params['octave']).toBe(-12);
    expect(nodeOf(graph, 'env1').params['attack']).toBeCloseTo(0.1, 9);
    expect(nodeOf(graph, 'mix').params['gain1']).toBe(0.7);
    expect(nodeOf(graph, 'filter').controls['cutoff']).toBe('cutoff');
  });

  it('exchanges the board of a revision', () => {
    expect(nodeOf(compile(sluice, initWith({}, { revision: 'board-a' })), 'filter').kind).toBe(
      'low-pass-12',
    );
    expect(nodeOf(compile(sluice, initWith({}, { revision: 'board-b' })), 'filter').kind).toBe(
      'low-pass-24',
    );
  });

  it('lets rest what is not recorded', () => {
    const graph = compile(sluice, { settings: {}, cables: [] });
    expect(nodeOf(graph, 'out').params['level']).toBe(0);
    expect(nodeOf(graph, 'osc2').params['interval']).toBe(0);
  });

  it('breaks a normal by a plug, connected at its other end or not', () => {
    const copy = structuredClone(sluice);
    copy.jacks.push({ ...copy.jacks[1]!, id: 'amp-in', port: 'amp.in' });
    copy.circuit.wires.find((w) => w.to === 'amp.in')!.normalOf = 'amp-in';
    const into = (
      cables: { id: string; from?: string; to?: string; inactive?: boolean }[],
    ): string[] =>
      edgesInto(compile(copy, { ...initWith(), cables }), 'amp', 'in').map((e) => e.from.node);
    expect(into([])).toEqual(['hp']);
    expect(into([{ id: 'a', to: 'amp-in' }])).toEqual([]);
    expect(into([{ id: 'a', to: 'amp-in', inactive: true }])).toEqual(['hp']);
    expect(into([{ id: 'a', from: 'line-out', to: 'amp-in' }])).toEqual(['out']);
  });

  it('orders modules behind what feeds them, circles left open where they began', () => {
    const graph = compile(sluice, initWith());
    graph.edges.forEach((e) => {
      const order = graph.nodes.map((n) => n.id);
      expect(order.indexOf(e.from.node)).toBeLessThan(order.indexOf(e.to.node));
    });
    const node = (id: string) => ({ ...nodeOf(graph, 'wvib'), id });
    const edge = (a: string, b: string) => ({
      from: { node: a, port: 'out' },
      to: { node: b, port: 'in' },
      signal: 'audio' as const,
    });
    const circle = sortNodes([node('a'), node('b')], [edge('a', 'b'), edge('b', 'a')]);
    expect(circle.map((n) => n.id)).toEqual(['a', 'b']);
  });
});

describe('bounds', () => {
  it('hold for whatever is computed, and what is pruned is not missed', () => {
    fc.assert(
      fc.property(anyPanel, fc.constantFrom('board-a', 'board-b'), (values, revision) => {
        const graph = compile(sluice, initWith(values, { revision }));
        const bounds = boundsOf(graph, notes);
        // Glide and band-limited edges go a little beyond; audio is bounded in its source, not behind resonance.
        const control = graph.nodes.filter((n) =>
          ['envelope', 'lfo', 'attenuator', 'controller'].includes(n.kind),
        );
        const watch = [...control.map((n) => `${n.id}.out`), 'filter.hz'];
        const whole = render(graph, { sampleRate: 48000, seconds: 0.2, notes, watch });
        for (const name of watch) {
          const [id = '', port = ''] = name.split('.');
          const [lo, hi] = bounds.output(id, port);
          const found = whole.watched[name]!;
          const slack = (v: number): number => 1e-3 * Math.max(1, Math.abs(v));
          expect([
            name,
            Math.min(...found) >= lo - slack(lo),
            Math.max(...found) <= hi + slack(hi),
          ]).toEqual([name, true, true]);
        }
        const less = render(prune(graph, notes), { sampleRate: 48000, seconds: 0.2, notes });
        expect(less.samples.findIndex((v, i) => v !== whole.samples[i])).toBe(-1);
      }),
      { numRuns: runs(60) },
    );
  });

  it('leaves out what is not heard', () => {
    const graph = prune(compile(sluice, initWith()), notes);
    expect(graph.nodes.map((n) => n.id).sort()).toEqual(
      ['amp', 'drive', 'env1', 'filter', 'hp', 'keys', 'mix', 'osc1', 'out'].sort(),
    );
    for (const node of graph.nodes) expect(moduleSpec(node.kind)).toBeDefined();
  });
});
