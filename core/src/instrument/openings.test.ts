import fc from 'fast-check';
import { runs } from '../testing/runs';
import { BETWEEN_MODULES, gapsFor, rackWidth } from './arrange';
import { openingsFor } from './openings';
import { checkPlaced } from './placed';
import type { Placed } from './rack';
import type { Rack } from './schema';

const WIDTHS = { small: 40, middle: 70, wide: 130 };
const rackOf = (placed: Placed[], rows = 2): Rack =>
  ({
    rowHeight: 200,
    rows,
    placed,
    types: Object.entries(WIDTHS).map(([id, width]) => ({ id, name: id, width })),
  }) as unknown as Rack;
const at = (id: string, type: keyof typeof WIDTHS, from: number, row = 0): Placed => ({
  id,
  type,
  row,
  at: from,
});
/** The arrangement once the module stands there, and the others have given way. */
const after = (placed: Placed[], type: string, opening: ReturnType<typeof openingsFor>[number]) => [
  ...placed.map((p) => opening.aside.find((a) => a.id === p.id) ?? p),
  { id: 'new', type, row: opening.row, at: opening.at },
];

/** Rows of modules with room between them, in a cabinet of 600. */
const anyRow = (row: number) =>
  fc
    .array(
      fc.record({
        type: fc.constantFrom('small', 'middle', 'wide'),
        gap: fc.integer({ min: 6, max: 90 }),
      }),
      { maxLength: 6 },
    )
    .map((all) => {
      const placed: Placed[] = [];
      let from = 0;
      all.forEach(({ type, gap }, i) => {
        const width = WIDTHS[type as keyof typeof WIDTHS];
        if (from + gap + width > 600) return;
        placed.push({ id: `m${row}${i}`, type, row, at: from + gap });
        from += gap + width;
      });
      return placed;
    });
const fixed = at('edge', 'small', 560, 1);

describe('room in a cabinet', () => {
  it('is a gap where there is one, and nothing moves for it', () => {
    const placed = [at('a', 'small', 0), at('b', 'small', 200), fixed];
    const inFirst = openingsFor(rackOf(placed), placed, 'wide').filter((o) => o.row === 0);
    expect(inFirst.map((o) => [o.at, o.aside])).toEqual([
      [46, []],
      [246, []],
    ]);
  });

  it('is made by the fewest that must move, worked out by hand', () => {
    // 600 wide: 0-130, 180-310, 400-530. Gaps of 50, 90 and 70: none of 130, 210 in all.
    const placed = [
      at('a', 'wide', 0),
      at('b', 'wide', 180),
      at('c', 'wide', 400),
      at('edge', 'small', 560, 1),
    ];
    const [opening] = openingsFor(rackOf(placed), placed, 'wide');
    // B goes 44 to the left, beside A; C could go 70 to the right, for a gap of 154.
    expect(opening).toEqual({ row: 0, at: 316, aside: [{ ...placed[2], at: 470 }] });
    expect(checkPlaced(after(placed, 'wide', opening!), rackOf(placed))).toEqual([]);
  });

  it('is none where a row has not so much room in all', () => {
    const placed = [0, 136, 272, 408].map((from, i) => at(`m${i}`, 'wide', from));
    expect(openingsFor(rackOf(placed, 1), placed, 'middle')).toEqual([]);
  });

  it('leaves every arrangement sound, and is found wherever a row closed up would have it', () => {
    fc.assert(
      fc.property(anyRow(0), fc.constantFrom('small', 'middle', 'wide'), (row, type) => {
        const placed = [...row, fixed];
        const rack = rackOf(placed);
        const openings = openingsFor(rack, placed, type);
        for (const opening of openings) {
          const next = after(placed, type, opening);
          expect(checkPlaced(next, rack)).toEqual([]);
          expect(rackWidth(rack, next)).toBeLessThanOrEqual(rackWidth(rack, placed));
          // The order along the row stays.
          const order = (all: Placed[]): string =>
            all
              .filter((p) => p.row === 0 && p.id !== 'new')
              .sort((a, b) => a.at - b.at)
              .map((p) => p.id)
              .join();
          expect(order(next)).toBe(order(placed));
        }
        const closed = row.reduce(
          (sum, p) => sum + WIDTHS[p.type as keyof typeof WIDTHS] + BETWEEN_MODULES,
          0,
        );
        const enough = closed + WIDTHS[type as keyof typeof WIDTHS] <= rackWidth(rack, placed);
        expect(openings.some((o) => o.row === 0)).toBe(
          enough || gapsFor(rack, placed, type).some((g) => g.row === 0),
        );
      }),
      { numRuns: runs(300, 5000) },
    );
  });

  it('moves no more than any other way would, tried by brute force', () => {
    fc.assert(
      fc.property(anyRow(0), (row) => {
        const placed = [...row, fixed];
        const rack = rackOf(placed);
        const [opening] = openingsFor(rack, placed, 'wide').filter((o) => o.row === 0);
        fc.pre(opening !== undefined && row.length <= 5);
        // Of every subset that stays where it is: does what is left of the row have room for the others in order?
        let fewest = Infinity;
        for (let stays = 0; stays < 1 << row.length; stays++) {
          for (let between = 0; between <= row.length; between++) {
            const order = [
              ...row.slice(0, between).map((p, i) => ({ ...p, stays: ((stays >> i) & 1) === 1 })),
              { id: 'new', type: 'wide', row: 0, at: 0, stays: false },
              ...row
                .slice(between)
                .map((p, i) => ({ ...p, stays: ((stays >> (between + i)) & 1) === 1 })),
            ];
            let free = 0;
            let fits = true;
            for (const p of order) {
              if (p.stays && p.at < free - BETWEEN_MODULES) fits = false;
              const from = p.stays ? p.at : free;
              free = from + WIDTHS[p.type as keyof typeof WIDTHS] + BETWEEN_MODULES;
            }
            if (fits && free - BETWEEN_MODULES <= 600)
              fewest = Math.min(fewest, order.filter((p) => !p.stays && p.id !== 'new').length);
          }
        }
        expect(opening!.aside.length).toBeLessThanOrEqual(fewest);
      }),
      { numRuns: runs(150, 2000) },
    );
  });
});
