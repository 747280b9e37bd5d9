import fc from 'fast-check';
import type { Corners, Point2 } from '../instrument/photograph';
import { type Pixels, ratioOf, straighten } from './straighten';
import { homographyBetween, isConvex, through } from './homography';

const square: Corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];
/** Corners of a picture of a panel, each near its own. */
const anyCorners: fc.Arbitrary<Corners> = fc
  .array(fc.double({ min: 0, max: 0.3, noNaN: true }), { minLength: 8, maxLength: 8 })
  .map(([a, b, c, d, e, f, g, h]) => [
    [a!, b!],
    [1 - c!, d!],
    [1 - e!, 1 - f!],
    [g!, 1 - h!],
  ]);
const near = ([a, b]: Point2, [c, d]: Point2): boolean => Math.hypot(a - c, b - d) < 1e-6;

describe('a perspective', () => {
  it('takes each corner to its own, and back', () => {
    fc.assert(
      fc.property(anyCorners, anyCorners, (from, to) => {
        const [there, back] = [homographyBetween(from, to)!, homographyBetween(to, from)!];
        from.forEach((corner, i) => expect(near(through(there, corner), to[i]!)).toBe(true));
        const inside: Point2 = [0.4, 0.55];
        expect(near(through(back, through(there, inside)), inside)).toBe(true);
      }),
    );
  });

  it('keeps straight lines straight', () => {
    fc.assert(
      fc.property(anyCorners, (to) => {
        const h = homographyBetween(square, to)!;
        const [a, b, c] = [0.1, 0.45, 0.8].map((t) => through(h, [t, 0.3 + 0.5 * t]));
        const area = (b![0] - a![0]) * (c![1] - a![1]) - (c![0] - a![0]) * (b![1] - a![1]);
        expect(Math.abs(area)).toBeLessThan(1e-9);
      }),
    );
  });

  it('of a square onto a rectangle only scales', () => {
    const h = homographyBetween(square, [
      [0, 0],
      [300, 0],
      [300, 200],
      [0, 200],
    ])!;
    expect(through(h, [0.5, 0.5])).toEqual([150, 100]);
  });

  it('of the worked trapezium: its middle is not in the middle', () => {
    // The far side is half as long: the crossing of the diagonals lies two thirds of the way up.
    const h = homographyBetween(square, [
      [0.25, 0],
      [0.75, 0],
      [1, 1],
      [0, 1],
    ])!;
    const [x, y] = through(h, [0.5, 0.5]);
    expect(x).toBeCloseTo(0.5, 12);
    expect(y).toBeCloseTo(1 / 3, 12);
  });

  it('is none where three corners lie on a line, and corners with a dent are told', () => {
    const flat: Corners = [
      [0, 0],
      [0.5, 0],
      [1, 0],
      [0, 1],
    ];
    expect(homographyBetween(flat, square)).toBeUndefined();
    expect(isConvex(square)).toBe(true);
    expect(
      isConvex([
        [0, 0],
        [1, 0],
        [0.2, 0.2],
        [0, 1],
      ]),
    ).toBe(false);
    expect(
      isConvex([
        [0, 0],
        [0, 1],
        [1, 1],
        [1, 0],
      ]),
    ).toBe(true);
  });
});

describe('a picture seen from in front', () => {
  /** A picture in which each point says where it is: red to the right, green downwards. */
  const made = (width: number, height: number): Pixels => ({
    ...{ width, height },
    data: Uint8ClampedArray.from({ length: 4 * width * height }, (_, i) => {
      const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)];
      return [(255 * x) / (width - 1), (255 * y) / (height - 1), 0, 255][i & 3]!;
    }),
  });
  const at = (p: Pixels, x: number, y: number): number[] => [
    ...p.data.subarray(4 * (y * p.width + x), 4 * (y * p.width + x) + 4),
  ];

  it('is itself between its own corners', () => {
    const picture = made(40, 30);
    expect(straighten(picture, square, 40, 30)).toEqual(picture);
  });

  it('shows at each place what the perspective has there', () => {
    const picture = made(200, 200);
    fc.assert(
      fc.property(anyCorners, (corners) => {
        const seen = straighten(picture, corners, 60, 40)!;
        const h = homographyBetween(square, corners)!;
        for (const [x, y] of [
          [0, 0],
          [30, 20],
          [59, 39],
        ] as const) {
          const [u, v] = through(h, [(x + 0.5) / 60, (y + 0.5) / 40]);
          const [red, green] = at(seen, x, y);
          expect(Math.abs(red! - 255 * u)).toBeLessThan(3);
          expect(Math.abs(green! - 255 * v)).toBeLessThan(3);
        }
      }),
      { numRuns: 20 },
    );
  });

  it('has the ratio that its corners show', () => {
    expect(ratioOf(square, { width: 400, height: 100 })).toBeCloseTo(0.25, 12);
    expect(
      straighten(
        made(4, 4),
        [
          [0, 0],
          [0.5, 0],
          [1, 0],
          [0, 1],
        ],
        4,
        4,
      ),
    ).toBeUndefined();
  });
});
