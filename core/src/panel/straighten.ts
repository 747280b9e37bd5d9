import type { Corners } from '../instrument/photograph';
import { homographyBetween, isConvex, through } from './homography';

/** A picture as its points lie in memory: red, green, blue, opacity, row by row from the upper left, 0..255. */
export interface Pixels {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/**
 * What lies between four corners of a picture, seen from straight in front: each point read between the four that are nearest
 * to where the perspective puts it.
 * @param corners shares of the picture's width and height
 * @param width and height of what comes out, in points
 * @returns undefined when the corners go round no shape that could be looked at: three on a line, or crossed
 */
export function straighten(
  picture: Pixels,
  corners: Corners,
  width: number,
  height: number,
): Pixels | undefined {
  const there = corners.map(([x, y]) => [x * picture.width, y * picture.height]);
  const [a, b, c, d] = there as unknown as [Corners[0], Corners[1], Corners[2], Corners[3]];
  const back = homographyBetween(
    [
      [0, 0],
      [width, 0],
      [width, height],
      [0, height],
    ],
    [a, b, c, d],
  );
  if (!back || !isConvex(corners)) return undefined;
  const data = new Uint8ClampedArray(4 * width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [u, v] = through(back, [x + 0.5, y + 0.5]);
      readBetween(picture, u - 0.5, v - 0.5, data, 4 * (y * width + x));
    }
  }
  return { width, height, data };
}

/** Writes the colour at a place between points, by how near each of the four is. Beyond the edge it is the edge's. */
function readBetween(
  { width, height, data }: Pixels,
  x: number,
  y: number,
  out: Uint8ClampedArray,
  at: number,
): void {
  const column = (n: number): number => Math.min(width - 1, Math.max(0, n));
  const row = (n: number): number => Math.min(height - 1, Math.max(0, n));
  const [left, top] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - left, y - top];
  const [x0, x1] = [column(left), column(left + 1)];
  const [y0, y1] = [row(top) * width, row(top + 1) * width];
  for (let channel = 0; channel < 4; channel++) {
    const upper = (1 - fx) * data[4 * (y0 + x0) + channel]! + fx * data[4 * (y0 + x1) + channel]!;
    const lower = (1 - fx) * data[4 * (y1 + x0) + channel]! + fx * data[4 * (y1 + x1) + channel]!;
    out[at + channel] = (1 - fy) * upper + fy * lower;
  }
}

/**
 * Height that a panel has for its width, as its corners in a picture show it: the mean of both upright sides over that of both
 * level ones. A picture taken from the side shows it somewhat too narrow; where millimetres are known they decide.
 */
export function ratioOf(corners: Corners, picture: { width: number; height: number }): number {
  const long = (i: number, j: number): number =>
    Math.hypot(
      (corners[j]![0] - corners[i]![0]) * picture.width,
      (corners[j]![1] - corners[i]![1]) * picture.height,
    );
  return (long(0, 3) + long(1, 2)) / Math.max(1e-6, long(0, 1) + long(3, 2));
}
