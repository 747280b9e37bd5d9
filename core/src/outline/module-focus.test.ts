import { checkInstrument } from '../instrument/check';
import type { Instrument } from '../instrument/schema';
import { copied } from './copied';
import { moveBy, resize } from './hand';
import { instrumentOf } from './instrument';
import { moduleInFocus, withModuleInFocus } from './module-focus';
import { readOutline } from './read';
import { standing, withOneMore, withoutPlaced, withStanding } from './standing';

const words = `Heron by Own

Keys: keys
glide 0..10
VCO: module oscillators
wave saw/pulse
tune -5..5
> out
VCF: module
cutoff 20..20k Hz
< in, audio

= VCO, VCO, VCF
= VCF`;
const heron = instrumentOf(readOutline(words).outline, words);
const focus = (i: Instrument, id: string): Instrument => moduleInFocus(i, id)!;
const edit = (i: Instrument, id: string, change: (m: Instrument) => Instrument): Instrument =>
  withModuleInFocus(i, id, change(focus(i, id)));
const at = (i: Instrument, id: string) => standing(i).sections.find((s) => s.id === id)!;

describe('a module of a cabinet by itself', () => {
  it('is an instrument of one section, and put back unchanged it changes nothing', () => {
    expect(checkInstrument(focus(heron, 'vco'))).toEqual([]);
    expect(focus(heron, 'vco').outline).toBe('VCO:\nwave: saw/pulse\ntune: -5..5\n> out');
    expect(edit(heron, 'vco', (m) => m)).toEqual(heron);
    expect(moduleInFocus(heron, 'none')).toBeUndefined();
  });

  it('takes its things with it to every place where one stands', () => {
    const moved = edit(heron, 'vco', (m) => moveBy(m, ['control:vco-tune'], { x: 0, y: 6 }));
    const old = heron.rack!.types[0]!.controls[1]!.place;
    expect(moved.rack!.types[0]!.controls[1]!.place).toEqual({ ...old, y: old.y + 6 });
    expect(moved.outline).toBe(words);
    expect(checkInstrument(moved)).toEqual([]);
  });

  it('makes room: the row grows, its neighbours and what stands beneath give way', () => {
    const wide = edit(heron, 'vco', (m) => resize(m, 'section:vco', { width: 300, height: 400 }));
    expect(checkInstrument(wide)).toEqual([]);
    expect(at(wide, 'vco-1').width).toBe(300);
    expect(at(wide, 'vco-2').x).toBeGreaterThanOrEqual(300);
    expect(at(wide, 'vcf-2').y).toBe(408);
    expect(at(wide, 'keys').y).toBeGreaterThanOrEqual(816);
    expect(at(wide, 'vcf-1').height).toBe(400);
    const low = edit(wide, 'vco', (m) => resize(m, 'section:vco', { height: 10 }));
    expect(low.rack!.rowHeight).toBeLessThan(408);
    expect(checkInstrument(low)).toEqual([]);
  });

  it('writes what is new on it into the words of the whole', () => {
    const more = edit(heron, 'vco', (m) => copied(m, ['control:vco-tune']).instrument);
    expect(checkInstrument(more)).toEqual([]);
    const again = readOutline(more.outline!);
    expect(again.faults).toEqual([]);
    const vco = again.outline.sections.find((s) => s.name === 'VCO')!;
    expect(vco).toMatchObject({ module: true });
    expect(vco.controls).toHaveLength(3);
    expect(again.outline.rows).toEqual([['VCO', 'VCO', 'VCF'], ['VCF']]);
    expect(instrumentOf(again.outline, more.outline!, more)).toEqual(more);
  });

  it('is one section', () => {
    expect(() => edit(heron, 'vco', (m) => copied(m, ['section:vco']).instrument)).toThrow(
      'A module is one section',
    );
  });
});

describe('modules in their rows', () => {
  const move = (i: Instrument, id: string, by: { x: number; y: number }): Instrument =>
    withStanding(i, moveBy(standing(i), [`section:${id}`], by));

  it('are moved along a row, and into another: the words follow', () => {
    const right = move(heron, 'vcf-1', { x: 40, y: 0 });
    expect(at(right, 'vcf-1').x).toBe(at(heron, 'vcf-1').x + 40);
    expect(right.outline).toBe(words);
    const down = move(heron, 'vco-1', { x: 400, y: heron.rack!.rowHeight - 3 });
    expect(down.rack!.placed.find((p) => p.id === 'vco-1')).toMatchObject({ row: 1 });
    expect(readOutline(down.outline!).outline.rows).toEqual([
      ['VCO', 'VCF'],
      ['VCF', 'VCO'],
    ]);
    for (const one of [right, down]) expect(checkInstrument(one)).toEqual([]);
    expect(instrumentOf(readOutline(down.outline!).outline, down.outline!, down)).toEqual(down);
  });

  it('give way to what is put upon them', () => {
    const upon = move(heron, 'vcf-1', { x: -at(heron, 'vcf-1').x + 4, y: 0 });
    expect(checkInstrument(upon)).toEqual([]);
    expect(readOutline(upon.outline!).outline.rows![0]).toEqual(['VCO', 'VCF', 'VCO']);
  });

  it('let what is beside the cabinet be moved too', () => {
    const moved = move(heron, 'keys', { x: 30, y: 0 });
    expect(at(moved, 'keys').x).toBe(at(heron, 'keys').x + 30);
    expect(moved.rack).toEqual(heron.rack);
    expect(checkInstrument(moved)).toEqual([]);
  });

  it('are added and taken away; what stays keeps its id', () => {
    const more = withOneMore(heron, 'vco', 1);
    expect(more.rack!.placed.map((p) => p.id)).toEqual([
      'vco-1',
      'vco-2',
      'vcf-1',
      'vcf-2',
      'vco-3',
    ]);
    expect(withOneMore(heron, 'vco', 2).rack).toMatchObject({ rows: 3 });
    const less = withoutPlaced(more, new Set(['vco-1', 'vcf-2']));
    expect(less.rack!.placed.map((p) => p.id)).toEqual(['vco-2', 'vcf-1', 'vco-3']);
    expect(readOutline(less.outline!).outline.rows).toEqual([['VCO', 'VCF'], ['VCO']]);
    for (const one of [more, less]) expect(checkInstrument(one)).toEqual([]);
  });
});
