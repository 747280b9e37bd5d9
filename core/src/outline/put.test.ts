import fc from 'fast-check';
import { checkInstrument, type Instrument, instrumentSchema } from '../instrument';
import { runs } from '../testing/runs';
import { panelSvg } from '../panel';
import { copied } from './copied';
import { boxOf, moveBy, type Thing } from './hand';
import { instrumentOf } from './instrument';
import { blocksOf, withLinesIn } from './lines';
import { putAt } from './put';
import { readOutline } from './read';
import { millimetresAUnit, withMillimetres, withPhotograph } from './sheet-size';
import { SOMEWHERE } from '../instrument/photograph';

const text = `Crane by Own

Oscillator 1: oscillators
wave saw/pulse
fine -1..1 knob = 0
// tuned by ear

Filter:
cutoff 20..20k Hz
+ resonance 0..10
< cutoff in, modulation
Envelope: as Filter
odd line that is = no control 3..`;
const crane = instrumentOf(readOutline(text).outline, text);
const namesIn = (i: Instrument, section: string): string[] => {
  const { id } = i.sections.find((s) => s.name === section)!;
  return [...i.controls, ...i.jacks].filter((c) => c.section === id).map((c) => c.name);
};

describe('lines of a section', () => {
  it('go from its head to the next, heads with a place and likenesses too', () => {
    expect(blocksOf(text).map((b) => b.name)).toEqual(['Oscillator 1', 'Filter', 'Envelope']);
    expect(withLinesIn('A:\nx 0..1\n\nB:\ny', 'a', ['z'])).toBe('A:\nx 0..1\nz\n\nB:\ny');
    expect(withLinesIn('A:\nwave: saw/sine', 'A', ['z'])).toBe('A:\nwave: saw/sine\nz');
    expect(withLinesIn('A:\nx', 'B', ['z'])).toBeUndefined();
  });
});

describe('copies', () => {
  it('of a section have everything in it, laid out the same', () => {
    const moved = moveBy(crane, ['control:oscillator-1-fine'], { x: 0, y: 12 });
    const { instrument, copies } = copied(moved, ['section:oscillator-1']);
    expect(copies).toEqual(['section:oscillator-2']);
    expect(namesIn(instrument, 'Oscillator 2')).toEqual(['wave', 'fine']);
    const inner = (section: string, id: string) => {
      const s = instrument.sections.find((one) => one.id === section)!;
      const { x, y, size } = instrument.controls.find((c) => c.id === id)!.place;
      return [x - s.x, y - s.y, size];
    };
    expect(inner('oscillator-2', 'oscillator-2-fine')).toEqual(
      inner('oscillator-1', 'oscillator-1-fine'),
    );
    const fine = instrument.controls.find((c) => c.id === 'oscillator-2-fine')!;
    expect(fine.rest).toBe(0.5);
    expect(checkInstrument(instrument)).toEqual([]);
    // What stood there has not moved, and what is not understood is still there.
    expect(boxOf(instrument, 'control:filter-cutoff')).toEqual(
      boxOf(moved, 'control:filter-cutoff'),
    );
    expect(instrument.outline).toContain('// tuned by ear');
    expect(instrument.outline).toContain('odd line that is');
  });

  it('of controls and jacks stand in the same section, with all that is printed on them', () => {
    const { instrument, copies } = copied(crane, [
      'control:filter-cutoff',
      'jack:filter-cutoff-in-in',
    ]);
    expect(copies).toHaveLength(2);
    expect(namesIn(instrument, 'Filter')).toEqual([
      ...['cutoff', 'resonance', 'cutoff 2'],
      ...['cutoff in', 'cutoff in 2'],
    ]);
    const [was, is] = ['filter-cutoff', 'filter-cutoff-2'].map((id) =>
      instrument.controls.find((c) => c.id === id)!,
    );
    const { id, name, place, ...said } = was!;
    expect(is).toMatchObject({ ...said, bindings: [] });
    expect(is!.place.size).toBe(place.size);
    expect([id, name]).toEqual(['filter-cutoff', 'cutoff']);
    expect(checkInstrument(instrument)).toEqual([]);
  });

  it('of anything, again and again, leave a sound panel', () => {
    const all: Thing[] = [
      ...crane.sections.map((s): Thing => `section:${s.id}`),
      ...crane.controls.map((c): Thing => `control:${c.id}`),
      ...crane.jacks.map((j): Thing => `jack:${j.id}`),
    ];
    fc.assert(
      fc.property(fc.array(fc.subarray(all, { minLength: 1 }), { maxLength: 4 }), (lots) => {
        let now = crane;
        for (const things of lots) {
          try {
            now = copied(now, things).instrument;
          } catch (error) {
            expect((error as Error).message).toContain('has no room');
          }
        }
        expect(checkInstrument(now)).toEqual([]);
        expect(instrumentSchema.safeParse(now).error?.issues ?? []).toEqual([]);
      }),
      { numRuns: runs(30) },
    );
  });
});

describe('what is put on a sheet by pointing', () => {
  it('is a control with its middle there, in the section that is there', () => {
    const filter = crane.sections.find((s) => s.name === 'Filter')!;
    const at = { x: filter.x + 70, y: filter.y + 140 };
    const { instrument, put } = putAt(crane, 'drive 0..5', at);
    expect(put).toBe('control:filter-drive');
    const { place } = instrument.controls.find((c) => c.id === 'filter-drive')!;
    expect([place.x, place.y]).toEqual([Math.round(at.x), Math.round(at.y)]);
    expect(namesIn(instrument, 'Filter')).toContain('drive');
    expect(checkInstrument(instrument)).toEqual([]);
  });

  it('is a section with its corner there, and what is far off makes the nearest one grow', () => {
    const { instrument, put } = putAt(crane, 'Output:', { x: 900, y: 300 });
    expect(boxOf(instrument, put)).toMatchObject({ x: 900, y: 300 });
    const far = putAt(instrument, '> line out', { x: 1200, y: 420 });
    expect(far.put).toBe('jack:output-line-out-out');
    expect(checkInstrument(far.instrument)).toEqual([]);
  });

  it('is nothing where the line is not understood, or there is no section', () => {
    const at = { x: 10, y: 10 };
    expect(() => putAt(crane, 'wave saw/saw', at)).toThrow('is there twice');
    expect(() => putAt(crane, 'Filter:', at)).toThrow('already');
    const bare = instrumentOf(readOutline('Bare').outline, 'Bare');
    expect(() => putAt(bare, 'cutoff 0..10', at)).toThrow('no section yet');
    expect(putAt(bare, 'Filter:', at).put).toBe('section:filter');
  });

  it('anywhere leaves a sound panel', () => {
    const point = fc.record({
      x: fc.integer({ min: -50, max: 5000 }),
      y: fc.integer({ min: -50, max: 5000 }),
    });
    fc.assert(
      fc.property(fc.array(point, { minLength: 1, maxLength: 8 }), (points) => {
        let now = crane;
        points.forEach((at, i) => (now = putAt(now, `thing ${i} 0..10`, at).instrument));
        expect(checkInstrument(now)).toEqual([]);
        expect(instrumentSchema.safeParse(now).error?.issues ?? []).toEqual([]);
      }),
    );
  });
});

describe('the size of the real one', () => {
  it('makes a unit as many millimetres across as down, whatever is moved', () => {
    const sized = withMillimetres(crane, { width: 415, height: 120 });
    expect(sized.panel.width / sized.panel.height).toBeCloseTo(415 / 120, 1);
    expect(millimetresAUnit(sized)).toBeCloseTo(415 / sized.panel.width, 9);
    const moved = moveBy(sized, ['section:filter'], { x: 300, y: 200 });
    expect(moved.panel.width / moved.panel.height).toBeCloseTo(415 / 120, 1);
    expect(checkInstrument(moved)).toEqual([]);
    const retyped = instrumentOf(
      readOutline(`${text}\nmore 0..10`).outline,
      `${text}\nmore 0..10`,
      sized,
    );
    expect(retyped.panel.millimetres).toEqual({ width: 415, height: 120 });
    const bare = withMillimetres(sized, null).panel;
    expect(bare).not.toHaveProperty('millimetres');
    expect(Math.abs(bare.width - crane.panel.width)).toBeLessThanOrEqual(1);
    expect(panelSvg(sized)).toContain('width="415mm"');
    expect(millimetresAUnit(crane)).toBeUndefined();
  });

  it('holds a photograph, which stays as large as it was laid', () => {
    const photograph = {
      ...{ id: 'a'.repeat(64), corners: SOMEWHERE },
      ...{ width: 1400, height: 500, shown: 0.5 },
    };
    const laid = withPhotograph(crane, photograph);
    expect([laid.panel.width, laid.panel.height]).toEqual([
      1400,
      Math.max(500, crane.panel.height),
    ]);
    const moved = moveBy(laid, ['section:filter'], { x: 1500, y: 0 });
    expect(moved.panel.photograph).toEqual(photograph);
    expect(moved.panel.width).toBeGreaterThan(1400);
    expect(instrumentSchema.safeParse(moved).success).toBe(true);
    expect(withPhotograph(laid, null).panel).not.toHaveProperty('photograph');
  });
});
