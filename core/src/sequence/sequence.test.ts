import fc from 'fast-check';
import { allocate, noteRules, silentKeys, sounding } from '../pattern/allocate';
import { notesEnd, phraseToNotes } from '../pattern/timed';

const held = fc.uniqueArray(fc.integer({ min: 0, max: 127 }), { minLength: 1, maxLength: 6 });

describe('who gets the note', () => {
  it('lets the middle of three keys be silent in low-and-high', () => {
    expect(allocate([64, 60, 67], 'low-and-high', 2)).toEqual([60, 67]);
    expect(silentKeys([64, 60, 67], 'low-and-high', 2)).toEqual([64]);
    // As many voices for the one as for the other.
    expect(allocate([64, 60, 67], 'low-and-high', 4)).toEqual([60, 67, 60, 67]);
    expect(allocate([64, 60, 67], 'low-and-high', 3)).toEqual([60, 67, null]);
    expect(allocate([64, 60], 'low-and-high', 1)).toEqual([60]);
  });

  it.each([
    ['low', 60],
    ['high', 67],
    ['last', 67],
    ['first', 64],
  ] as const)('%s', (rule, note) => expect(allocate([64, 60, 67], rule, 2)).toEqual([note, note]));

  it('plays only keys that are held, and none when none is', () => {
    fc.assert(
      fc.property(
        held,
        fc.constantFrom(...noteRules),
        fc.integer({ min: 1, max: 4 }),
        (keys, rule, voices) => {
          const given = allocate(keys, rule, voices);
          expect(given).toHaveLength(voices);
          for (const note of given.slice(0, sounding(rule, voices))) expect(keys).toContain(note);
          expect(allocate([], rule, voices)).toEqual(Array(voices).fill(null));
        },
      ),
    );
  });
});

describe('phrases', () => {
  it('are laid out in seconds', () => {
    const notes = phraseToNotes([{ beat: 1.5, length: 0.5, note: 60, velocity: 90 }], 118);
    expect(notes[0]!.start).toBeCloseTo((1.5 * 60) / 118, 9);
    expect(notesEnd(notes)).toBeCloseTo((2 * 60) / 118, 9);
    expect(notesEnd([])).toBe(0);
  });
});
