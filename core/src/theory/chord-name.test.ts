import fc from 'fast-check';
import { chordKind, chordKinds, nameChord, readChord, spellChord } from './chord-name';
import { bestRanges, repairGain, rowVolts } from './voltage-row';

/** Root, kind and inversion. */
const anyChord = [
  fc.integer({ min: 36, max: 60 }),
  fc.constantFrom(...chordKinds),
  fc.integer({ min: 0, max: 3 }),
] as const;
const classes = (notes: readonly number[]): number[] =>
  [...new Set(notes.map((n) => n % 12))].sort();
const named = (...notes: number[]) => nameChord(notes)?.name;

describe('a chord named from its notes', () => {
  it.each([
    [[60, 64, 67], 'C major'],
    [[64, 67, 72], 'C major over E'],
    [[55, 60, 64], 'C major over G'],
    [[57, 60, 64, 67], 'A minor 7'],
    [[60, 64, 67, 69, 74], 'C six-nine'],
    [[53, 57, 60, 63, 67, 74], 'F 13'],
    [[60, 67], 'C fifth'],
    [[56, 60, 63], 'A♭ major'],
    [[60, 63, 68], 'A♭ major over C'],
    [[56, 59, 63], 'G# minor'],
    [[58, 61, 65, 68], 'B♭ minor 7'],
    [[62, 65, 69, 72, 76], 'D minor 9'],
    [[59, 62, 65, 69], 'B half-diminished 7'],
  ])('%j is %s', (notes, name) => expect(named(...notes)).toBe(name));

  it('without a name of its own is the nearest, and said to be', () => {
    const odd = nameChord([60, 61, 62])!;
    expect(odd.exact).toBe(false);
    expect(nameChord([60, 64, 67])!.exact).toBe(true);
    expect(nameChord([60, 72])).toBeUndefined();
  });

  it('is found again from any kind, root and inversion that says what it is', () => {
    fc.assert(
      fc.property(...anyChord, (root, kind, inversion) => {
        const tones = chordKind(kind)!;
        const notes = spellChord(root, kind, Math.min(inversion, tones.length - 1))!;
        const found = nameChord(notes)!;
        expect(found.exact).toBe(true);
        // Some sets have two names: the same notes either way.
        const again = spellChord(found.root, found.kind)!;
        expect(classes(again)).toEqual(classes(notes));
      }),
    );
  });
});

describe('a chord read from its name', () => {
  it.each([
    ['C', [48, 52, 55]],
    ['Am7', [57, 60, 64, 67]],
    ['g#dim', [56, 59, 62]],
    ['C/E', [52, 55, 60]],
    ['F six-nine', [53, 57, 60, 62 + 0, 67]],
    ['C/D', [38, 48, 52, 55]],
  ] as const)('%s', (text, notes) =>
    expect([...readChord(text)!].sort((a, b) => a - b)).toEqual([...notes].sort((a, b) => a - b)),
  );

  it('is taken by every name that is told', () => {
    fc.assert(
      fc.property(...anyChord, (root, kind, inversion) => {
        const notes = spellChord(root, kind, Math.min(inversion, chordKind(kind)!.length - 1))!;
        expect(classes(readChord(nameChord(notes)!.name)!)).toEqual(classes(notes));
      }),
    );
  });

  it('is nothing when it is none', () => {
    expect(readChord('H7')).toBeUndefined();
    expect(readChord('C strange')).toBeUndefined();
  });
});

describe('rows of voltages', () => {
  it('reach a figure best from 1 V for a fifth and from 2 V for an octave', () => {
    const [best] = bestRanges([0, 7], 127);
    expect(best).toMatchObject({ range: 1, reaches: true });
    expect(best!.worstCents).toBeCloseTo(0.79, 2);
    expect(bestRanges([0, 12, 24], 127)[0]!.range).toBe(2);
    expect(bestRanges([0, 130], 127).every((r) => !r.reaches)).toBe(true);
  });

  it('make up for what a path loses', () => {
    expect(repairGain(0.93)).toBeCloseTo(1.0753, 4);
    expect(rowVolts(12, 0.93)).toBeCloseTo(1.0753, 4);
    expect(rowVolts(7)).toBeCloseTo(7 / 12, 12);
  });
});
