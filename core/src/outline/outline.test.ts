import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { checkInstrument } from '../instrument/check';
import { instrumentSchema } from '../instrument/schema';
import { controlBox } from '../panel/place';
import { panelOf } from '../instrument/panel-of';
import { anyCabinet } from '../testing/outlines';
import { runs } from '../testing/runs';
import { instrumentOf } from './instrument';
import { overlap } from './layout';
import { outlineOf } from './outline-of';
import { readOutline } from './read';
import { writeOutline } from './write';

const crane = `Crane by Saltpan

Oscillator 1:
wave saw/pulse/tri
octave 16'/8'/4' = 8'
fine
width 5-95 %
Oscillator 2: as Oscillator 1
Mix:
4 x 0-10 slider: one, two, ring, noise

Filter:
cutoff 20..20k Hz
+ resonance 0..10 via shift
env amount -5..5
key track: none/half way/full
// the two at the back
< cutoff in
> line out, audio
`;

const panel = (text: string) => instrumentOf(readOutline(text).outline, text);

describe('a panel in words', () => {
  it('is read without a fault, and tells what it has guessed', () => {
    const { outline, faults, guesses } = readOutline(crane);
    expect(faults).toEqual([]);
    expect([outline.name, outline.maker]).toEqual(['Crane', 'Saltpan']);
    expect(outline.sections.map((s) => [s.name, s.controls.length, s.jacks.length])).toEqual([
      ['Oscillator 1', 4, 0],
      ['Oscillator 2', 4, 0],
      ['Mix', 4, 0],
      ['Filter', 4, 2],
    ]);
    expect(guesses).toContainEqual({ line: 3, says: 'oscillators, by its name' });
    expect(guesses).toContainEqual({ line: 4, says: 'rotary' });
    expect(guesses).toContainEqual({ line: 15, says: 'knob, an amount' });
    expect(guesses).toContainEqual({ line: 18, says: 'modulation' });
  });

  it('becomes an instrument that can be recorded before anything is said of its circuit', () => {
    const made = panel(crane);
    expect(instrumentSchema.parse(JSON.parse(JSON.stringify(made)))).toEqual(made);
    expect(checkInstrument(made)).toEqual([]);
    expect(made.id).toBe('saltpan-crane');
    const of = (id: string) => made.controls.find((c) => c.id === id)!;
    expect(of('oscillator-1-octave')).toMatchObject({ kind: 'rotary', rest: '8' });
    expect(of('oscillator-2-fine')).toMatchObject({ kind: 'knob', rest: 0.5 });
    expect(of('mix-ring')).toMatchObject({ kind: 'slider', scale: { division: 1 } });
    expect(of('filter-cutoff')).toMatchObject({
      scale: { unit: 'Hz', division: 5 },
    });
    expect(of('filter-resonance')).toMatchObject({
      route: ['shift'],
      where: 'second function of cutoff',
    });
    expect(of('filter-env-amount')).toMatchObject({ amount: true, rest: 0.5 });
    expect(of('filter-key-track')).toMatchObject({
      positions: [{ id: 'none' }, { id: 'half-way' }, { id: 'full' }],
    });
    expect(made.jacks).toMatchObject([
      { direction: 'in', signal: 'modulation', port: '' },
      { direction: 'out', signal: 'audio' },
    ]);
  });

  it.each([
    ['cutoff 0..10\nFilter:\ncutoff', 2, 1],
    ['A\nB', 2, 'Which section'],
    ['F:\nwave saw//tri', 2, 'a position is missing'],
    ['F:\nwave saw/saw', 2, '"saw" is there twice'],
    ['F:\ncutoff 5..5', 2, 'run one way'],
    ['F:\nmarks 0@0;5@0.9;9@0.5;10@1', 2, 'from one end stop to the other'],
    ['F:\ncutoff 0..10 = 12', 2, 'does not reach 12'],
    ['F:\nwave saw/tri = sine', 2, '"sine" is none of its positions'],
    ['F:\nwave saw/tri toggle\nfine toggle', 3, 1],
    ['F:\nx: slider\ny: toggle', 3, 'has positions'],
    ['F:\n3 x 0..10: a, b', 2, '3 were announced, and 2 are named'],
    ['F:\ncutoff\nF:', 3, 'a section "F" already'],
    ['F:\nG: as H', 2, 'no section "H" above'],
    ['F:\n+ resonance', 2, 'no control above'],
    ['F:\n< cv, light', 2, '"light" is none of them'],
    [`F:\n${'x'.repeat(81)}`, 2, '80 letters at most'],
    ['F:\ncutoff 0..10 cc120', 2, 'from 0 to 119'],
    ['F:\n3 x 0..10 cc118: a, b, c', 2, 'from 0 to 119'],
    ['F:\ncutoff 0..10 cc74\nfine cc74', 3, 'number 74 is that of "cutoff"'],
    ['F: module\ncutoff 0..10 cc74', 2, 'in a cabinet twice'],
  ])('says of %j on line %p what is wrong', (text, line, says) => {
    const { faults } = readOutline(text);
    if (typeof says === 'number') return expect(faults.length).toBeLessThanOrEqual(says);
    expect(faults).toHaveLength(1);
    expect(faults[0]!.line).toBe(line);
    expect(faults[0]!.message).toContain(says);
    const at = text.split('\n')[line - 1]!.slice(faults[0]!.column - 1);
    expect(at.length).toBeGreaterThanOrEqual(faults[0]!.length);
  });

  it('marks the part that is wrong, and leaves the rest of the panel as it is', () => {
    const { outline, faults } = readOutline('F:\ncutoff 0..10\n  wave saw/tri = sine\nres 0..10');
    expect(faults).toEqual([
      { line: 3, column: 18, length: 4, message: '"sine" is none of its positions.' },
    ]);
    expect(outline.sections[0]!.controls.map((c) => c.name)).toEqual(['cutoff', 'res']);
  });

  it.each([
    ['a by a', 'a'],
    ['a', 'a by a'],
    ['Stand by Me', ''],
    ['a by', ''],
    ['a by', 'b'],
    ['by', 'by'],
    ['by a', ''],
    ['a', 'b by'],
  ])('keeps the name %p and the maker %p apart', (name, maker) => {
    const text = writeOutline({ name, maker, sections: [] });
    expect(readOutline(text).outline).toEqual({ name, maker, sections: [] });
  });

  it('says what a control sends over MIDI; rows count on, and what is the same once more sends nothing', () => {
    const { outline, faults } = readOutline(
      'F:\ncutoff 20..20k Hz slider cc74 = 200\nwave saw/tri cc20\nmod wheel cc1\n2 x 0..10 cc5: a, b\nG: as F',
    );
    expect(faults).toEqual([]);
    expect(outline.sections.map((s) => s.controls.map((c) => c.cc))).toEqual([
      [74, 20, 1, 5, 6],
      [undefined, undefined, undefined, undefined, undefined],
    ]);
    expect(outline.sections[0]!.controls[0]).toMatchObject({ kind: 'slider', rest: '200' });
    const made = instrumentOf(outline, '');
    expect(made.controls.map((c) => c.cc).slice(0, 5)).toEqual([74, 20, 1, 5, 6]);
  });

  it('keeps a name that ends like a controller number', () => {
    const named = (name: string, cc?: number) => ({ name, ...(cc === undefined ? {} : { cc }) });
    const controls = [named('send cc1'), named('send cc2', 7), named('fine', 9)];
    const text = writeOutline({
      name: 'a',
      maker: '',
      sections: [{ name: 'F', controls, jacks: [] }],
    });
    const read = readOutline(text);
    expect(read.faults).toEqual([]);
    expect(read.outline.sections[0]!.controls.map(({ name, cc }) => ({ name, cc }))).toEqual([
      { name: 'send cc1', cc: undefined },
      { name: 'send cc2', cc: 7 },
      { name: 'fine', cc: 9 },
    ]);
  });

  it('that is written reads back as it was', () => {
    fc.assert(
      fc.property(anyCabinet, (outline) => {
        const text = writeOutline(outline);
        const read = readOutline(text);
        expect(read.faults).toEqual([]);
        expect(read.outline).toEqual(outline);
      }),
      { numRuns: runs(200) },
    );
  });

  it('lies on its sheet: nothing covers anything, nothing leaves its section', () => {
    fc.assert(
      fc.property(anyCabinet, (outline) => {
        const made = instrumentOf(outline, '');
        expect(checkInstrument(made)).toEqual([]);
        expect(instrumentSchema.safeParse(made).success).toBe(true);
        const face = panelOf(made);
        const boxes = face.controls.map((c) => controlBox(c));
        const outside = boxes.filter((a, i) => {
          const s = face.sections.find((one) => one.id === face.controls[i]!.section)!;
          const [right, bottom] = [a.x + a.width, a.y + a.height];
          return a.x < s.x || a.y < s.y || right > s.x + s.width || bottom > s.y + s.height;
        });
        expect(outside).toEqual([]);
        for (const all of [boxes, face.sections])
          expect(all.filter((a, i) => all.slice(i + 1).some((b) => overlap(a, b)))).toEqual([]);
      }),
      { numRuns: runs(100) },
    );
  });

  it('of any lines at all is read, each fault within its line', () => {
    const line = fc.string({ maxLength: 60, unit: 'grapheme' });
    fc.assert(
      fc.property(fc.array(line, { maxLength: 40 }), (lines) => {
        const text = lines.join('\n');
        const { outline, faults } = readOutline(text);
        const all = text.split(/\r?\n/);
        for (const fault of faults) {
          expect(fault.column).toBeGreaterThanOrEqual(1);
          expect(fault.column - 1 + fault.length).toBeLessThanOrEqual(
            Math.max(1, all[fault.line - 1]!.length),
          );
        }
        expect(instrumentSchema.safeParse(instrumentOf(outline, text)).success).toBe(true);
      }),
      { numRuns: runs(200) },
    );
  });

  it('of ten thousand lines stays within what a panel may have', () => {
    const text = `F:\n${Array.from({ length: 10_000 }, (_, i) => `knob ${i} 0..10`).join('\n')}`;
    const { outline, faults } = readOutline(text);
    expect(outline.sections[0]!.controls).toHaveLength(600);
    expect(faults).toHaveLength(9_400);
    expect(faults[0]!.message).toBe('A panel has 600 controls at most.');
  });
});

const cabinet = `Heron by Saltpan

Keys: keys
glide 0..10
> pitch, pitch V/oct
> gate, gate
VCO: module oscillators
wave saw/pulse
tune -5..5
< pitch, pitch
> out
VCF: module
cutoff 20..20k Hz
< in, audio
> out
VCO 2: as VCO

= VCO, VCO, VCF
= VCO 2`;

describe('a cabinet in words', () => {
  const made = panel(cabinet);

  it('has kinds of module, and rows in which they stand above the rest', () => {
    expect(readOutline(cabinet).faults).toEqual([]);
    expect(checkInstrument(made)).toEqual([]);
    const face = panelOf(made);
    expect(face.sections.map((s) => [s.name, s.stage])).toEqual([
      ['Keys', 'keys'],
      ['VCO', 'oscillators'],
      ['VCO 2', 'oscillators'],
      ['VCF', 'filter'],
      ['VCO 2 1', 'oscillators'],
    ]);
    const at = (id: string) => face.sections.find((s) => s.id === id)!;
    expect(at('vco-1').y).toBe(at('vcf-1').y);
    expect(at('vco-1').x).toBeLessThan(at('vco-2').x);
    expect(at('keys').y).toBeGreaterThan(at('vco-2-1').y);
    expect(face.controls.map((c) => c.id)).toContain('vco-2-vco-wave');
  });

  it('keeps what is known of a module, and ids of what stands, through edits of its words', () => {
    const known = structuredClone(made);
    known.rack!.types[0]!.modules.push({ id: 'osc', kind: 'oscillator', params: {} });
    known.rack!.types[0]!.jacks[1]!.port = 'osc.out';
    known.rack!.placed[2]!.at += 40;
    const edit = (from: string, to: string) => {
      const text = cabinet.replace(from, to);
      return instrumentOf(readOutline(text).outline, text, known).rack!;
    };
    const wider = edit('tune -5..5', 'tune -5..5\nfine');
    expect(wider.types[0]!.modules).toHaveLength(1);
    expect(wider.types[0]!.jacks[1]!.port).toBe('osc.out');
    const renamed = edit('VCF: module', 'Filter: module').types.map((t) => t.name);
    expect(renamed).toEqual(['VCO', 'VCF', 'VCO 2'].map((n) => (n === 'VCF' ? 'Filter' : n)));
    expect(edit('glide 0..10', 'glide 0..5').placed).toEqual(known.rack!.placed);
    const more = edit('= VCO 2', '= VCO 2, VCO');
    expect(more.placed.map((p) => [p.id, p.row])).toEqual([
      ['vco-1', 0],
      ['vco-2', 0],
      ['vcf-1', 0],
      ['vco-2-1', 1],
      ['vco-3', 1],
    ]);
    const beside = edit('Keys: keys', 'VCO 1: keys\nslide 0..10\nKeys: keys');
    expect(beside.placed.map((p) => p.id)).toEqual(known.rack!.placed.map((p) => p.id));
    const text = cabinet.replace('Keys: keys', 'VCO 1: keys\nslide 0..10\nKeys: keys');
    expect(checkInstrument(instrumentOf(readOutline(text).outline, text, known))).toEqual([]);
    const one = edit('= VCO, VCO, VCF', '= VCO, VCF');
    expect(one.placed.map((p) => p.id)).toEqual(['vco-1', 'vcf-1', 'vco-2-1']);
  });

  it.each([
    ['= VCO', 'no module "VCO" above'],
    ['A, B: module', 'Rows are written with commas'],
    ['A: module\n= A,, A', 'Between two commas'],
    ['A: module\n' + '=\n'.repeat(17), '16 rows at most'],
    ['A: module\n' + `= ${'A, '.repeat(128)}A`, '128 modules'],
    ['A: module\n' + 'knob 0..10\n'.repeat(65), '64 controls at most'],
  ])('says of %j what is wrong', (text, says) => {
    const { faults } = readOutline(text);
    expect(faults.map((f) => f.message)).toEqual([expect.stringContaining(says)]);
  });
});

describe('a cabinet that is larger than a sheet', () => {
  it.each([
    ['wide', Array(40).fill('VCO').join(', '), 40],
    ['high', Array.from({ length: 16 }, () => 'Tall').join('\n= '), 5],
  ])('goes on in further rows, as far as there is room: %s', (_, rows, least) => {
    const tall = Array.from({ length: 48 }, (__, i) => `| s${i} 0..10`).join('\n');
    const text = `C\n\nVCO: module\nwave saw/pulse\ntune -5..5\nTall: module\n${tall}\n\n= ${rows}`;
    expect(readOutline(text).faults).toEqual([]);
    const made = panel(text);
    expect(checkInstrument(made)).toEqual([]);
    expect(instrumentSchema.safeParse(made).success).toBe(true);
    expect(made.rack!.placed.length).toBeGreaterThanOrEqual(least);
  });
});

describe('an instrument that is there already, in words', () => {
  const library = new URL('../../../library/instruments/', import.meta.url);
  const all = readdirSync(library).map((file) =>
    instrumentSchema.parse(JSON.parse(readFileSync(new URL(file, library), 'utf8'))),
  );

  it.each(all.map((i) => [i.name, i] as const))(
    '%s is what it was, made of its words again',
    (_, it) => {
      const text = writeOutline(outlineOf(it));
      const { outline, faults } = readOutline(text);
      expect(faults).toEqual([]);
      const { outline: kept, ...again } = instrumentOf(outline, text, it);
      expect(kept).toBe(text);
      const order = <T extends { id: string }>(list: readonly T[]): T[] =>
        [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
      const sorted = (i: typeof it) => ({
        ...i,
        controls: order(i.controls),
        jacks: order(i.jacks),
        ...(i.rack
          ? {
              rack: {
                ...i.rack,
                placed: order(i.rack.placed),
                types: i.rack.types.map((t) => ({
                  ...t,
                  controls: order(t.controls),
                  jacks: order(t.jacks),
                })),
              },
            }
          : {}),
      });
      expect(sorted(again as typeof it)).toEqual(sorted(it));
    },
  );

  it('keeps what is bound to it through edits of other lines', () => {
    const sluice = all.find((i) => i.id === 'oxbow-sluice')!;
    const text = writeOutline(outlineOf(sluice)).replace('Filter:', 'Filter:\nbrightness 0..10');
    const made = instrumentOf(readOutline(text).outline, text, sluice);
    expect(made.controls.find((c) => c.id === 'cutoff')!.bindings).toEqual(
      sluice.controls.find((c) => c.id === 'cutoff')!.bindings,
    );
    expect(made.circuit).toBe(sluice.circuit);
    expect(made.controls).toHaveLength(sluice.controls.length + 1);
    expect(checkInstrument(made)).toEqual([]);
  });
});
