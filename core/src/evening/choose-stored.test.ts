import fc from 'fast-check';
import { runs } from '../testing/runs';
import { chooseStored, type Goes, waysOfStoring } from './choose-stored';
import { choicesOf, type Sound, sparingMost, type Storable } from './stored';

/** Sounds `0`, `1` ... of one panel, each with what it spares in one break, which may be too short without it. */
const panel = (spares: number[], places: number): Storable => ({
  panel: { id: 'e' } as Storable['panel'],
  places: Array.from({ length: places }, (_, i) => `A${i}`),
  sounds: spares.map((seconds, i) => ({
    play: { panel: 'e', patch: `${i}`, locked: false },
    spares: seconds,
  })),
});
const names = (some: readonly Sound[]): string[] => some.map((s) => s.play.patch);
const nameOf = (_: Storable, { play }: Sound): string => play.patch;

/** Each sound that is not stored lacks so much in its break. */
const evening =
  ({ sounds }: Storable, lacks: readonly number[]) =>
  ([chosen]: readonly (readonly Sound[])[]): Goes & { stored: string[] } => {
    const stored = names(chosen!);
    const open = sounds.filter((s) => !stored.includes(s.play.patch));
    const lacking = (s: Sound): number => lacks[Number(s.play.patch)]!;
    return {
      stored,
      lacking: open.reduce((sum, s) => sum + lacking(s), 0),
      seconds: open.reduce((sum, s) => sum + s.spares, 0),
      pressing: new Set(names(open.filter((s) => lacking(s) > 0))),
    };
  };

const anything = fc.record({
  sounds: fc.array(
    fc.record({ spares: fc.integer({ min: 1, max: 60 }), lacks: fc.integer({ min: 0, max: 20 }) }),
    { minLength: 1, maxLength: 9 },
  ),
  places: fc.integer({ min: 1, max: 4 }),
});

describe('what is stored', () => {
  it('leaves the least lacking of all choices, also where not all of them are tried', () => {
    let many = 0;
    fc.assert(
      fc.property(anything, ({ sounds, places }) => {
        const one = panel(
          sounds.map((s) => s.spares),
          places,
        );
        const go = evening(
          one,
          sounds.map((s) => Math.min(s.lacks, s.spares)),
        );
        const { best, sure } = chooseStored([one], go, nameOf);
        const every = choicesOf(one).map((chosen) => go([chosen]));
        const least = Math.min(...every.map((e) => e.lacking));
        // What lacks is the sum over breaks of their own: exchanging one for one finds the least of these too.
        expect(best.lacking).toBe(least);
        expect(sure || waysOfStoring([one]) > 64).toBe(true);
        if (waysOfStoring([one]) > 64) many++;
      }),
      { numRuns: runs(300, 3000) },
    );
    expect(many).toBeGreaterThan(0);
  });

  it('is what spares the most where all breaks suffice', () => {
    const one = panel([5, 40, 12, 30, 8, 9, 7, 6, 3], 4);
    expect(waysOfStoring([one])).toBe(126);
    let tried = 0;
    const go = evening(one, Array(9).fill(0));
    const { best, sure } = chooseStored([one], (chosen) => (tried++, go(chosen)), nameOf);
    expect([best.stored, sure, tried]).toEqual([names(sparingMost(one)), true, 1]);
  });

  it('is not said to be the best where more is lacking and not every choice was tried', () => {
    const one = panel(Array(9).fill(20), 4);
    const { best, sure } = chooseStored([one], evening(one, Array(9).fill(2)), nameOf);
    expect([best.lacking, sure]).toEqual([10, false]);
  });
});
