import { flow } from './flow';

describe('rows on a sheet', () => {
  it('fill a column, then the next', () => {
    const { columns, places } = flow([10, 20, 30, 15], 60);
    expect(columns).toBe(2);
    expect(places).toEqual([
      { column: 0, y: 0 },
      { column: 0, y: 10 },
      { column: 0, y: 30 },
      { column: 1, y: 0 },
    ]);
  });

  it('let one that is too high stand alone', () => {
    expect(flow([100, 10], 60).places).toEqual([
      { column: 0, y: 0 },
      { column: 1, y: 0 },
    ]);
  });

  it('keep a heading with what it is the heading of', () => {
    expect(flow([40, 10, 20], 60, [false, true, false]).places).toEqual([
      { column: 0, y: 0 },
      { column: 1, y: 0 },
      { column: 1, y: 10 },
    ]);
  });
});
