import fc from 'fast-check';
import type { Scale, Taper } from '../instrument';
import { interpolateMonotone, type Point } from './interpolate';
import { scalePosition, scaleReading, taperBounds, taperPosition, taperValue } from './taper';
import { runs } from '../testing/runs';

const position = fc.double({ min: 0, max: 1, noNaN: true });

const monotone: fc.Arbitrary<Point[]> = fc
  .array(
    fc.tuple(
      fc.double({ min: 0.01, max: 1, noNaN: true }),
      fc.double({ min: 0.01, max: 5, noNaN: true }),
    ),
    {
      minLength: 2,
      maxLength: 8,
    },
  )
  .map((steps) => {
    const width = steps.reduce((sum, [dx]) => sum + dx, 0);
    let [x, y] = [0, 0];
    return [[0, 0] as Point, ...steps.map(([dx, dy]) => [(x += dx / width), (y += dy)] as Point)];
  });

describe('tapers', () => {
  it('runs 20 Hz to 20 kHz through 632.46 Hz at noon and 224.40 Hz at 0.35', () => {
    const taper: Taper = { kind: 'exponential', lo: 20, hi: 20000, unit: 'Hz' };
    expect(taperValue(taper, 0.5)).toBeCloseTo(632.46, 2);
    expect(taperValue(taper, 0.35)).toBeCloseTo(224.4, 2);
  });

  it('inverts every kind', () => {
    const tapers: Taper[] = [
      { kind: 'linear', lo: 10, hi: -5, unit: 'st' },
      { kind: 'exponential', lo: 0.001, hi: 10, unit: 's' },
      {
        kind: 'table',
        points: [
          [0, 0],
          [0.2, 1],
          [0.7, 1.5],
          [1, 9],
        ],
        unit: 's',
      },
    ];
    for (const taper of tapers) {
      fc.assert(
        fc.property(position, (p) =>
          expect(taperPosition(taper, taperValue(taper, p))).toBeCloseTo(p, 6),
        ),
      );
    }
  });

  it('has no position for what lies outside', () => {
    const taper: Taper = { kind: 'exponential', lo: 1, hi: 10, unit: 'Hz' };
    expect(taperPosition(taper, 0.99)).toBeUndefined();
    expect(taperPosition(taper, 10.01)).toBeUndefined();
    expect(taperBounds({ kind: 'linear', lo: 4, hi: -4, unit: 'V' })).toEqual([-4, 4]);
  });
});

describe('monotone cubic', () => {
  it('goes through its points', () => {
    fc.assert(
      fc.property(monotone, (points) => {
        for (const [x, y] of points) expect(interpolateMonotone(points, x)).toBeCloseTo(y, 9);
      }),
    );
  });

  it('never turns back', () => {
    fc.assert(
      fc.property(monotone, position, position, (points, a, b) => {
        const [low, high] = a < b ? [a, b] : [b, a];
        expect(interpolateMonotone(points, high)).toBeGreaterThanOrEqual(
          interpolateMonotone(points, low) - 1e-9,
        );
      }),
      { numRuns: runs(500) },
    );
  });

  it('reproduces a straight line', () => {
    const points: Point[] = [
      [0, 1],
      [0.3, 1.6],
      [0.5, 2],
      [1, 3],
    ];
    fc.assert(
      fc.property(position, (x) =>
        expect(interpolateMonotone(points, x)).toBeCloseTo(1 + 2 * x, 9),
      ),
    );
  });
});

describe('printed scales', () => {
  const uneven: Scale = {
    marks: [
      { at: 0, value: 0 },
      { at: 0.5, value: 2 },
      { at: 1, value: 10 },
    ],
    division: 1,
    unit: '',
  };

  it('is linear between marks that need not be even', () => {
    expect(scaleReading(uneven, 0.25)).toBe(1);
    expect(scaleReading(uneven, 0.75)).toBe(6);
    expect(scalePosition(uneven, 6)).toBe(0.75);
    expect(scalePosition(uneven, 10.5)).toBeUndefined();
  });

  it('may fall', () => {
    const falling: Scale = {
      ...uneven,
      marks: [
        { at: 0, value: 5 },
        { at: 1, value: -5 },
      ],
    };
    expect(scalePosition(falling, 0)).toBe(0.5);
    expect(scalePosition(falling, 4)).toBeCloseTo(0.1, 12);
  });
});
