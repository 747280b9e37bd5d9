import fc from 'fast-check';
import { freeId } from './id';
import { mergeDocuments } from './merge';

interface Sheet {
  title: string;
  notes: Record<string, string>;
  lines: { id: string; text: string }[];
}
const KEYED = { notes: null, lines: (line: { id: string }) => line.id };
const sheet = (ids: string, notes: Record<string, string> = {}, title = 't'): Sheet => ({
  title,
  notes,
  lines: [...ids].map((id) => ({ id, text: id })),
});
const anySheet: fc.Arbitrary<Sheet> = fc
  .tuple(
    fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd')),
    fc.dictionary(fc.constantFrom('x', 'y', 'z'), fc.constantFrom('1', '2')),
    fc.constantFrom('t', 'u'),
  )
  .map(([ids, notes, title]) => sheet(ids.join(''), notes, title));
const merge = (b: Sheet | null, m: Sheet, t: Sheet, side: 'mine' | 'theirs' = 'mine') =>
  mergeDocuments<Sheet>(KEYED, b, m, t, () => side);

describe('merging two changes of a document', () => {
  it('of which one is none gives the other', () => {
    fc.assert(
      fc.property(anySheet, anySheet, (base, next) => {
        expect(merge(base, next, base).merged).toEqual(next);
        expect(merge(base, base, next).merged).toEqual(next);
        expect(merge(base, next, next)).toEqual({ merged: next, conflicts: [] });
      }),
    );
  });

  it('gives the same entries whoever is called mine, when the same side is chosen', () => {
    fc.assert(
      fc.property(anySheet, anySheet, anySheet, (base, mine, theirs) => {
        const one = merge(base, mine, theirs, 'mine');
        const other = merge(base, theirs, mine, 'theirs');
        const sorted = (s: Sheet) => [...s.lines].sort((a, b) => a.id.localeCompare(b.id));
        expect(sorted(one.merged)).toEqual(sorted(other.merged));
        expect(one.merged.notes).toEqual(other.merged.notes);
        expect([...one.conflicts].sort()).toEqual([...other.conflicts].sort());
      }),
    );
  });

  it('against nothing has every difference decided', () => {
    fc.assert(
      fc.property(anySheet, anySheet, (mine, theirs) => {
        expect(merge(null, mine, theirs, 'mine').merged).toEqual(mine);
        expect(merge(null, mine, theirs, 'theirs').merged.notes).toEqual(theirs.notes);
      }),
    );
  });

  it('keeps the order of whoever moved something', () => {
    const order = (m: string, t: string): string =>
      merge(sheet('abc'), sheet(m), sheet(t))
        .merged.lines.map((l) => l.id)
        .join('');
    expect(order('abc', 'cab')).toBe('cab');
    expect(order('cab', 'abc')).toBe('cab');
    expect(order('cba', 'bca')).toBe('cba');
    expect(order('abcd', 'cab')).toBe('cabd');
    expect(order('xabc', 'abcy')).toBe('xabcy');
    expect(order('ac', 'abcd')).toBe('acd');
  });

  it('names conflicts by pointer', () => {
    const { conflicts } = merge(
      sheet('a', { x: '1' }),
      sheet('a', { x: '2' }, 'm'),
      sheet('a', { x: '3' }, 'o'),
    );
    expect(conflicts).toEqual(['/title', '/notes/x']);
  });
});

it('a free id is none of the others’', () => {
  expect(freeId('part', [])).toBe('part-1');
  expect(freeId('part', [{ id: 'part-2' }])).toBe('part-3');
  expect(freeId('part', [{ id: 'a' }, { id: 'part-3' }])).toBe('part-4');
});
