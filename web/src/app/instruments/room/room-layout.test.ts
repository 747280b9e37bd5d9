import { circuitRoom, type Instrument, instrumentSchema, withWire } from '@hurrel/core';
import document from '../../../../../library/instruments/oxbow-sluice.json';
import { drawRoom, type RoomDrawing } from './room-layout';

const sluice: Instrument = instrumentSchema.parse(document);
const portOf = ({ modules }: RoomDrawing, port: string, side: string) =>
  modules.flatMap((m) => m.ports).find((p) => p.port === port && p.side === side)!;

describe('a circuit as it is drawn', () => {
  const drawing = drawRoom(circuitRoom(sluice));

  it('has every module on the sheet, none on another', () => {
    const { modules, width, height } = drawing;
    expect(modules).toHaveLength(sluice.circuit.modules.length);
    for (const [i, a] of modules.entries()) {
      expect(a.x).toBeGreaterThanOrEqual(0);
      expect(a.x + a.width).toBeLessThanOrEqual(width);
      expect(a.y + a.height).toBeLessThanOrEqual(height);
      for (const b of modules.slice(i + 1)) {
        const across = a.x < b.x + b.width && b.x < a.x + a.width;
        const down = a.y < b.y + b.height && b.y < a.y + a.height;
        expect([a.id, b.id, across && down]).toEqual([a.id, b.id, false]);
      }
    }
  });

  it('has inputs on the left edge of their module, outputs on the right, each at a height of its own', () => {
    for (const m of drawing.modules) {
      for (const p of m.ports) {
        expect(p.x).toBe(p.side === 'inputs' ? m.x : m.x + m.width);
        expect(p.y).toBeGreaterThan(m.y);
        expect(p.y).toBeLessThan(m.y + m.height);
      }
      const places = m.ports.map((p) => `${p.side} ${p.y}`);
      expect(new Set(places).size).toBe(places.length);
    }
  });

  it('has every wire from its output to its input, also one that runs back', () => {
    const back = drawRoom(circuitRoom(withWire(sluice, { from: 'amp.out', to: 'filter.in' })));
    expect(back.wires).toHaveLength(sluice.circuit.wires.length + 1);
    for (const { wire, d, middle } of back.wires) {
      const [from, to] = [portOf(back, wire.from, 'outputs'), portOf(back, wire.to, 'inputs')];
      const ends = d.match(/-?[\d.]+/g)!.map(Number);
      for (const [end, place] of [
        [ends.slice(0, 2), from],
        [ends.slice(-2), to],
      ] as const) {
        expect(end[0]).toBeCloseTo(place.x, 2);
        expect(end[1]).toBeCloseTo(place.y, 2);
      }
      expect(middle.x).toBeCloseTo((from.x + to.x) / 2, 9);
    }
  });
});
