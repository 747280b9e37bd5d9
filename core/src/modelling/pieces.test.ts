import fc from 'fast-check';
import { checkInstrument, type Instrument, instrumentSchema } from '../instrument';
import { withLinesIn } from '../outline/lines';
import { moveBy } from '../outline/hand';
import { instrumentOf } from '../outline/instrument';
import { readOutline } from '../outline/read';
import { withMillimetres } from '../outline/sheet-size';
import { withBindings } from './bind';
import { withFixed, withModule, withModuleName, withoutModule } from './modules';
import { pieceDifferences } from './piece-differences';
import { mergeInstruments } from './pieces';
import { withRevision } from './revisions';
import { withSequencer } from './sequencers';
import { withWire } from './wires';

const text =
  'Crane by Own\n\nFilter:\ncutoff 0..10\nresonance 0..10\n\nEnvelope:\nattack 0..10\n< in';
const wired = (() => {
  let now = instrumentOf(readOutline(text).outline, text);
  for (const kind of ['oscillator', 'low-pass-24'] as const) now = withModule(now, kind).instrument;
  now = withWire(now, { from: 'oscillator.out', to: 'low-pass-24.in' });
  return withWire(now, { from: 'low-pass-24.out', to: 'output.in' });
})();
const retype = (of: Instrument, to: string): Instrument =>
  instrumentOf(readOutline(to).outline, to, of);
const line = (of: Instrument, section: string, words: string): Instrument =>
  retype(of, withLinesIn(of.outline!, section, [words])!);
const turn = (of: Instrument, control: string, param: string): Instrument =>
  withBindings(of, control, [
    {
      ...{ module: 'low-pass-24', param },
      taper: { kind: 'exponential', lo: 20, hi: 20000, unit: 'Hz' },
    },
  ]);

const edits: ((of: Instrument) => Instrument)[] = [
  (i) => line(i, 'Filter', 'drive 0..5'),
  (i) => line(i, 'Envelope', 'decay 0..10'),
  (i) => retype(i, `${i.outline!}\n\nLFO:\nrate 0..10`),
  (i) => turn(i, 'filter-cutoff', 'cutoff'),
  (i) => withModule(i, 'noise').instrument,
  (i) => withModuleName(i, 'oscillator', 'tone'),
  (i) => withFixed(i, 'low-pass-24', 'resonance', 0.4),
  (i) => withSequencer(i, 'arpeggio').instrument,
  (i) => withRevision(i, 'late'),
  (i) => withMillimetres(i, { width: 300, height: 150 }),
  (i) => moveBy(i, ['control:filter-cutoff'], { x: 4, y: 4 }),
  (i) => ({ ...i, memory: { kind: 'slots', banks: 2, slots: 8, nameLength: 0 } }),
  (i) => ({ ...i, summary: 'A crane.' }),
  (i) => turn(i, 'filter-resonance', 'cutoff'),
  (i) => ({
    ...i,
    sequencers: i.sequencers.map((s) => ({ ...s, places: { banks: 2, slots: 4 } })),
  }),
  (i) => ({ ...i, start: { ...i.start, note: 'All down.' } }),
  (i) => withoutModule(i, 'oscillator'),
];
const anyEdit = fc.constantFrom(...edits);
const told = (a: Instrument, b: Instrument): string[] =>
  pieceDifferences(a, b).map((d) => d.pointer);

describe('two changes of one instrument', () => {
  it('of different things are both in what comes of them, whoever merges', () => {
    const mine = turn(line(wired, 'Filter', 'drive 0..5'), 'filter-cutoff', 'cutoff');
    const theirs = withSequencer(line(wired, 'Envelope', 'decay 0..10'), 'arpeggio').instrument;
    for (const [a, b] of [
      [mine, theirs],
      [theirs, mine],
    ] as const) {
      const { merged, conflicts } = mergeInstruments(wired, a, b);
      expect(conflicts).toEqual([]);
      expect(merged.controls.map((c) => c.name).sort()).toEqual(
        ['attack', 'cutoff', 'decay', 'drive', 'resonance'].sort(),
      );
      expect(merged.controls.find((c) => c.name === 'cutoff')!.bindings).toHaveLength(1);
      expect(merged.sequencers).toHaveLength(1);
      expect(checkInstrument(merged)).toEqual([]);
    }
  });

  it('of the same thing are decided, and told where', () => {
    const mine = withFixed(wired, 'low-pass-24', 'resonance', 0.2);
    const theirs = withFixed(wired, 'low-pass-24', 'resonance', 0.7);
    const { merged, conflicts } = mergeInstruments(wired, mine, theirs);
    expect(conflicts).toEqual(['/modules/low-pass-24']);
    expect(merged.circuit).toEqual(mine.circuit);
    const other = mergeInstruments(wired, mine, theirs, () => 'theirs');
    expect(other.merged.circuit).toEqual(theirs.circuit);
    // What is offered to be decided is what can be.
    expect(told(mine, theirs)).toEqual(conflicts);
  });

  it('that do not go together leave one: mine, or theirs when that is chosen', () => {
    const mine = turn(wired, 'filter-cutoff', 'cutoff');
    const theirs = turn(wired, 'filter-resonance', 'cutoff');
    const bound = (i: Instrument): string[] =>
      i.controls.filter((c) => c.bindings.length > 0).map((c) => c.id);
    const { merged, conflicts } = mergeInstruments(wired, mine, theirs);
    expect(conflicts).toEqual(['/turns/filter-cutoff', '/turns/filter-resonance']);
    expect(bound(merged)).toEqual(['filter-cutoff']);
    const other = mergeInstruments(wired, mine, theirs, (p) =>
      p === '/turns/filter-resonance' ? 'theirs' : 'mine',
    );
    expect(bound(other.merged)).toEqual(['filter-resonance']);
    // Two circuits with an output each.
    const bare = instrumentOf(readOutline(text).outline, text);
    const output = (id: string): Instrument => ({
      ...bare,
      circuit: { modules: [{ id, kind: 'output', params: {} }], wires: [] },
    });
    const one = mergeInstruments(bare, output('out'), output('end')).merged;
    expect(one.circuit.modules.map((m) => m.id)).toEqual(['out']);
  });

  it('that differ anywhere are all told: what could be decided is what is seen', () => {
    fc.assert(
      fc.property(
        fc.array(anyEdit, { maxLength: 4 }),
        fc.array(anyEdit, { maxLength: 4 }),
        (left, right) => {
          const [a, b] = [left, right].map((all) => all.reduce((i, edit) => edit(i), wired)) as [
            Instrument,
            Instrument,
          ];
          const { conflicts } = mergeInstruments(null, a, b);
          expect(conflicts.filter((c) => !told(a, b).includes(c))).toEqual([]);
          expect(told(a, b).filter((t) => !conflicts.includes(t))).toEqual([]);
          for (const d of pieceDifferences(a, b)) expect(d.after).not.toBe(d.before);
        },
      ),
    );
  });

  it('with themselves, or with none, are themselves', () => {
    fc.assert(
      fc.property(anyEdit, (edit) => {
        const one = edit(wired);
        expect(mergeInstruments(wired, one, one).merged).toEqual(one);
        expect(mergeInstruments(wired, one, wired).merged).toEqual(one);
        expect(told(one, one)).toEqual([]);
      }),
    );
  });

  it('whatever they are leave a sound instrument, and nothing that only one said is lost', () => {
    fc.assert(
      fc.property(
        fc.array(anyEdit, { minLength: 1, maxLength: 4 }),
        fc.array(anyEdit, { minLength: 1, maxLength: 4 }),
        (left, right) => {
          const [mine, theirs] = [left, right].map((all) =>
            all.reduce((i, edit) => edit(i), wired),
          ) as [Instrument, Instrument];
          const { merged, conflicts } = mergeInstruments(wired, mine, theirs);
          expect(checkInstrument(merged)).toEqual([]);
          expect(instrumentSchema.safeParse(merged).error?.issues ?? []).toEqual([]);
          const decided = new Set(conflicts);
          // Modules that one side removed take with them what the other had bound to them; of two arrangements one is taken.
          if ([...left, ...right].some((edit) => edits.indexOf(edit) === edits.length - 1)) return;
          decided.add('/places');
          const missing = told(merged, theirs).filter(
            (p) => !decided.has(p) && !told(wired, mine).includes(p),
          );
          expect(missing).toEqual([]);
        },
      ),
    );
  });
});

describe('two changes of one cabinet', () => {
  const words =
    'Heron by Own\n\nVCO: module\ntune -5..5\n> out\n\nVCF: module\ncutoff 0..10\n< in\n\n= VCO, VCF';
  const base = instrumentOf(readOutline(words).outline, words);
  const copy = (of: Instrument): Instrument => JSON.parse(JSON.stringify(of)) as Instrument;
  const behind = (of: Instrument): Instrument => {
    const next = copy(of);
    next.rack!.types[0]!.modules.push({ id: 'osc', kind: 'oscillator', params: {} });
    next.rack!.types[0]!.jacks[0]!.port = 'osc.out';
    return next;
  };
  const more = (of: Instrument): Instrument =>
    retype(of, of.outline!.replace('= VCO, VCF', '= VCO, VCF\n= VCO'));
  const further = (of: Instrument): Instrument => {
    const next = copy(of);
    next.rack!.placed[1]!.at += 30;
    return next;
  };

  it('are brought together: what is behind a module, rows, and where modules stand', () => {
    const { merged, conflicts } = mergeInstruments(base, behind(base), more(base));
    expect(conflicts).toEqual([]);
    expect(checkInstrument(merged)).toEqual([]);
    expect(merged.rack).toEqual(more(behind(base)).rack);
    const moved = mergeInstruments(base, further(base), behind(base));
    expect(moved.merged.rack).toEqual(further(behind(base)).rack);
  });

  it('are told as what they are', () => {
    const subjects = (a: Instrument, b: Instrument) => pieceDifferences(a, b).map((d) => d.subject);
    expect(subjects(base, behind(base))).toEqual(['Behind VCO']);
    expect(subjects(base, further(base))).toEqual(['Where modules stand in the cabinet']);
    expect(subjects(base, more(base))).toEqual([
      'Where modules stand in the cabinet',
      'Rows of the cabinet',
    ]);
  });
});
