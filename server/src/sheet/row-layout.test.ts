import fc from 'fast-check';
import { type Item, layRow, type Measure } from './row-layout';
import type { Row } from './rows';

/** Letters half as wide as they are high, lines broken anywhere. */
const measure: Measure = {
  width: (_, size, text) => 0.5 * size * text.length,
  height: (_, size, text, width) =>
    1.2 * size * Math.max(1, Math.ceil((0.5 * size * text.length) / Math.max(1, width))),
};
const heightOf = (item: Item) => measure.height(item.font, item.size, item.text, item.width);
const words = fc.string({ minLength: 1, maxLength: 60, unit: 'grapheme-ascii' });
const rows: fc.Arbitrary<Row> = fc.record({
  kind: fc.constantFrom('section', 'movement', 'listen'),
  left: words,
  right: fc.oneof(fc.constant(''), words),
  note: fc.oneof(fc.constant(''), fc.string({ maxLength: 300 })),
});

describe('a row of a sheet', () => {
  it('keeps name, reading and note apart and inside its column, at any size of its letters', () => {
    fc.assert(
      fc.property(
        rows,
        fc.double({ min: 4, max: 18, noNaN: true }),
        fc.constantFrom(259, 535),
        (row, size, width) => {
          const { height, items } = layRow(measure, row, size, width);
          expect(items.map((i) => i.text)).toEqual(
            [row.left, row.right, row.note].filter((t) => t !== ''),
          );
          items.forEach((a, i) => {
            expect(a.x + a.width).toBeLessThanOrEqual(width + 1);
            expect(a.y + heightOf(a)).toBeLessThanOrEqual(height + 1e-9);
            for (const b of items.slice(i + 1)) {
              const beside = a.x + a.width <= b.x || b.x + b.width <= a.x;
              const beneath = a.y + heightOf(a) <= b.y + 1e-9;
              expect(beside || beneath).toBe(true);
            }
          });
        },
      ),
    );
  });

  it('puts a reading at the tab, a short note beside it, a long one beneath when there is no room', () => {
    const row: Row = { kind: 'movement', left: 'cutoff', right: '4.5', note: 'from 0' };
    const { items } = layRow(measure, row, 10, 535);
    expect(items.map((i) => [i.x, i.y])).toEqual([
      [16, 0],
      [84, 0],
      [106, 0],
    ]);
    const narrow = layRow(measure, { ...row, left: 'the longest name there is' }, 10, 259);
    expect(narrow.items.map((i) => i.y)).toEqual([0, 0, 12]);
  });
});
