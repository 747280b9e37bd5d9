import { paperScale, POINTS_A_MM } from './paper-scale';

const panel = { width: 1000, height: 400 };

describe('the scale of a panel on paper', () => {
  it('is what fits, when its size is not known', () => {
    expect(paperScale(panel, 535, 350)).toEqual({ scale: 0.535 });
    expect(paperScale(panel, 535, 100)).toEqual({ scale: 0.25 });
  });

  it('is one that can be reckoned with, when it is', () => {
    // 500 mm are 1417 pt: a third is 472 pt, two fifths would be 567.
    const { scale, ratio } = paperScale(
      { ...panel, millimetres: { width: 500, height: 200 } },
      535,
      350,
    );
    expect(ratio).toBe(3);
    expect(1000 * scale).toBeCloseTo((500 / 3) * POINTS_A_MM, 9);
  });

  it('is the real one where there is room', () => {
    const small = { ...panel, millimetres: { width: 180, height: 72 } };
    expect(paperScale(small, 535, 350).ratio).toBe(1);
    expect(1000 * paperScale(small, 535, 350).scale).toBeCloseTo(180 * POINTS_A_MM, 9);
  });
});
