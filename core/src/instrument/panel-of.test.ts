import { compile } from '../circuit';
import { blankPatch } from '../patch';
import { checkInstrument } from './check';
import { panelOf } from './panel-of';
import { type Instrument, instrumentSchema, type InstrumentSource } from './schema';

const jack = (id: string, direction: 'in' | 'out', port: string) => ({
  id,
  section: 'vco',
  name: id,
  place: { x: 20, y: 100, size: 18 },
  signal: 'audio' as const,
  direction,
  port,
});

/** A cabinet of two kinds of module around keys and an output. */
const source: InstrumentSource = {
  format: 'hurrel-instrument',
  version: 1,
  id: 'test-cabinet',
  maker: 'Test',
  name: 'Cabinet',
  summary: 'For tests.',
  panel: { width: 400, height: 300 },
  sections: [],
  controls: [],
  circuit: { modules: [{ id: 'out', kind: 'output' }], wires: [] },
  rack: {
    rowHeight: 150,
    rows: 2,
    types: [
      {
        id: 'vco',
        name: 'Oscillator',
        stage: 'oscillators',
        width: 100,
        controls: [
          {
            id: 'fine',
            section: 'vco',
            kind: 'knob',
            name: 'fine',
            place: { x: 50, y: 40, size: 40 },
            rest: 0.5,
            bindings: [
              {
                module: 'o',
                param: 'fine',
                taper: { kind: 'linear', lo: -50, hi: 50, unit: 'cents' },
              },
            ],
          },
        ],
        jacks: [jack('fm', 'in', 'o.fm'), jack('saw', 'out', 'o.out')],
        modules: [
          { id: 'o', kind: 'oscillator' },
          { id: 'l', kind: 'lfo' },
        ],
        wires: [{ from: 'l.out', to: 'o.mod', normalOf: 'fm' }],
      },
      { id: 'blank', name: 'Blank', stage: 'modulation', width: 60 },
    ],
    placed: [
      { id: 'vco-1', type: 'vco', row: 0, at: 0 },
      { id: 'vco-2', type: 'vco', row: 1, at: 120 },
    ],
  },
  memory: { kind: 'none' },
  start: { note: '', settings: {} },
  init: { note: '', settings: {} },
};
const cabinet: Instrument = instrumentSchema.parse(source);

describe('the face of a cabinet', () => {
  it('has each placed module as a section, with ids and places of its own', () => {
    const face = panelOf(cabinet);
    expect(face.sections.map((s) => [s.id, s.name, s.x, s.y])).toEqual([
      ['vco-1', 'Oscillator', 0, 0],
      ['vco-2', 'Oscillator 2', 120, 150],
    ]);
    expect(face.controls.map((c) => [c.id, c.section, c.place.x, c.place.y])).toEqual([
      ['vco-1-fine', 'vco-1', 50, 40],
      ['vco-2-fine', 'vco-2', 170, 190],
    ]);
    expect(face.circuit.wires[1]).toEqual({
      from: 'vco-2-l.out',
      to: 'vco-2-o.mod',
      normalOf: 'vco-2-fm',
    });
  });

  it('is the same object for the same arrangement, and for a face of its own', () => {
    const face = panelOf(cabinet);
    expect(panelOf(cabinet)).toBe(face);
    expect(panelOf(face)).toBe(face);
  });

  it('leaves what was recorded of a module alone when it moves', () => {
    const moved = panelOf(cabinet, { rack: [{ id: 'vco-1', type: 'vco', row: 1, at: 200 }] });
    expect(moved.controls.map((c) => c.id)).toEqual(['vco-1-fine']);
    expect(moved.sections[0]).toMatchObject({ x: 200, y: 150 });
  });

  it('compiles like any other panel', () => {
    const patch = {
      ...blankPatch(cabinet, 't'),
      settings: { 'vco-2-fine': { kind: 'set', value: 1 } as const },
    };
    const graph = compile(panelOf(cabinet), patch);
    expect(graph.nodes.find((n) => n.id === 'vco-2-o')!.params.fine).toBe(50);
    expect(graph.nodes.find((n) => n.id === 'vco-1-o')!.params.fine).toBe(0);
  });

  it('is checked: every type, and how they stand', () => {
    expect(checkInstrument(cabinet)).toEqual([]);
    const over = {
      ...cabinet,
      rack: {
        ...cabinet.rack!,
        placed: [...cabinet.rack!.placed, { id: 'b', type: 'blank', row: 0, at: 50 }],
      },
    };
    expect(checkInstrument(over)).toEqual([
      { pointer: '/rack/placed/2/at', message: '"b" stands on "vco-1".' },
    ]);
    const types = structuredClone(cabinet.rack!.types);
    types[0]!.jacks[0]!.port = 'o.nothing';
    const wrong = checkInstrument({ ...cabinet, rack: { ...cabinet.rack!, types } });
    expect(wrong[0]).toMatchObject({ pointer: '/rack/types/0/jacks/0/port' });
    expect(wrong[0]!.message).toContain('"vco-1-o" has no input "nothing"');
  });
});
