import type { Corners, Point2 } from '../instrument/photograph';

/** A perspective, row by row: (x, y) goes to (h0 x + h1 y + h2, h3 x + h4 y + h5) / (h6 x + h7 y + 1). */
export type Homography = readonly [number, number, number, number, number, number, number, number];

/**
 * The perspective that takes four corners to four others, in their order; undefined when three of the first lie on a line.
 * Source: R. Hartley and A. Zisserman, Multiple View Geometry (2004), section 2.2: eight linear equations, solved by
 * elimination with pivots.
 */
export function homographyBetween(from: Corners, to: Corners): Homography | undefined {
  const rows = from.flatMap(([x, y], i) => {
    const [u, v] = to[i]!;
    return [
      [x, y, 1, 0, 0, 0, -u * x, -u * y, u],
      [0, 0, 0, x, y, 1, -v * x, -v * y, v],
    ];
  });
  for (let column = 0; column < 8; column++) {
    let pivot = column;
    for (let r = column + 1; r < 8; r++)
      if (Math.abs(rows[r]![column]!) > Math.abs(rows[pivot]![column]!)) pivot = r;
    const row = rows[pivot]!;
    if (Math.abs(row[column]!) < 1e-9) return undefined;
    rows[pivot] = rows[column]!;
    rows[column] = row;
    for (let r = 0; r < 8; r++) {
      const share = rows[r]![column]! / row[column]!;
      if (r !== column && share !== 0) rows[r] = rows[r]!.map((v, c) => v - share * row[c]!);
    }
  }
  const found = rows.map((row, i) => row[8]! / row[i]!);
  return found as unknown as Homography;
}

/** Where a perspective takes a point. */
export function through(h: Homography, [x, y]: Point2): Point2 {
  const w = h[6] * x + h[7] * y + 1;
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** Whether corners go round a shape without a dent, so that a picture between them is one that can be looked at. */
export function isConvex(corners: Corners): boolean {
  const turns = corners.map((a, i) => {
    const [b, c] = [corners[(i + 1) % 4]!, corners[(i + 2) % 4]!];
    return (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);
  });
  return turns.every((t) => t > 1e-6) || turns.every((t) => t < -1e-6);
}
