/** Joining of measured points. Points are `[x, y]` with x rising strictly. */
export type Point = readonly [number, number];

/** A way to join points: the y of a curve through them, at x. */
export type Join = (points: readonly Point[], x: number) => number;

/** Whether something runs from a to b by ratio: both have one sign, and neither is nought. */
const hasRatio = (a: number, b: number): boolean => a * b > 0;

/**
 * The same join, of logarithms: equal distances are equal ratios. Where a table touches nought or changes its sign the points
 * from there on are joined as they are.
 */
export const byRatio =
  (join: Join): Join =>
  (points, x) => {
    const sign = Math.sign(points.at(-1)![1] || points[0]![1]);
    const inside = points.filter(([, y]) => y * sign > 0);
    // Nought, and what lies beyond it, stands at one end: values run one way.
    if (inside.length < 2 || x < inside[0]![0] || x > inside.at(-1)![0])
      return interpolateLinear(points, x);
    const logs = inside.map(([at, y]): Point => [at, Math.log(y * sign)]);
    // What a logarithm loses in its last digits does not lead beyond the points.
    const [low, high] = [inside[0]![1], inside.at(-1)![1]].sort((a, b) => a - b) as [
      number,
      number,
    ];
    return Math.min(high, Math.max(low, sign * Math.exp(join(logs, x))));
  };

/** How far y is on its way from a to b, 0 to 1: by ratio, or evenly where there is none. */
export function shareBetween(a: number, b: number, y: number): number {
  const share = hasRatio(a, b) ? Math.log(y / a) / Math.log(b / a) : (y - a) / (b - a);
  return Math.min(1, Math.max(0, share));
}

/** Linear interpolation through points; held at both ends. */
export function interpolateLinear(points: readonly Point[], x: number): number {
  const last = points.length - 1;
  if (x <= points[0]![0]) return points[0]![1];
  if (x >= points[last]![0]) return points[last]![1];
  const i = segment(points, x);
  const [x0, y0] = points[i]!;
  const [x1, y1] = points[i + 1]!;
  return y0 + ((x - x0) / (x1 - x0)) * (y1 - y0);
}

/**
 * Monotone cubic interpolation through points; held at both ends.
 * Source: F. N. Fritsch and R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer. Anal. 17 (1980).
 */
export function interpolateMonotone(points: readonly Point[], x: number): number {
  const last = points.length - 1;
  if (x <= points[0]![0]) return points[0]![1];
  if (x >= points[last]![0]) return points[last]![1];
  const i = segment(points, x);
  const [x0, y0] = points[i]!;
  const [x1, y1] = points[i + 1]!;
  const h = x1 - x0;
  const [m0, m1] = tangents(points, i);
  const t = (x - x0) / h;
  const t2 = t * t;
  const t3 = t2 * t;
  return (
    y0 * (2 * t3 - 3 * t2 + 1) +
    h * m0 * (t3 - 2 * t2 + t) +
    y1 * (3 * t2 - 2 * t3) +
    h * m1 * (t3 - t2)
  );
}

/** x at which a monotone function of [lo, hi] takes the value y, by bisection; the nearer end when it never does. */
export function invertMonotone(f: (x: number) => number, y: number, lo = 0, hi = 1): number {
  const rising = f(hi) >= f(lo);
  let a = lo;
  let b = hi;
  for (let i = 0; i < 60; i++) {
    const middle = (a + b) / 2;
    if (f(middle) < y === rising) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}

function segment(points: readonly Point[], x: number): number {
  let i = 0;
  while (i < points.length - 2 && x > points[i + 1]![0]) i++;
  return i;
}

const slope = (points: readonly Point[], i: number): number =>
  (points[i + 1]![1] - points[i]![1]) / (points[i + 1]![0] - points[i]![0]);

/** Tangent at a point: mean of its neighbours' slopes, 0 at a turn, one-sided at the ends. */
function tangentAt(points: readonly Point[], i: number): number {
  if (i === 0) return slope(points, 0);
  if (i === points.length - 1) return slope(points, i - 1);
  const before = slope(points, i - 1);
  const after = slope(points, i);
  return before * after <= 0 ? 0 : (before + after) / 2;
}

/** Tangents at both ends of segment i, pulled into the circle of radius 3 that keeps the cubic monotone. */
function tangents(points: readonly Point[], i: number): [number, number] {
  const d = slope(points, i);
  if (d === 0) return [0, 0];
  // A tangent is limited by both segments it belongs to, or the curve would have a corner.
  return [limited(points, i), limited(points, i + 1)];
}

function limited(points: readonly Point[], i: number): number {
  let m = tangentAt(points, i);
  for (const s of [i - 1, i]) {
    if (s < 0 || s >= points.length - 1) continue;
    const d = slope(points, s);
    if (d === 0) return 0;
    const alpha = tangentAt(points, s) / d;
    const beta = tangentAt(points, s + 1) / d;
    const length = Math.hypot(alpha, beta);
    if (length > 3) {
      const bounded = (3 / length) * (s === i ? alpha : beta) * d;
      if (Math.abs(bounded) < Math.abs(m)) m = bounded;
    }
  }
  return m;
}
