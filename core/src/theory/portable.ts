/**
 * Elementary functions made of additions, multiplications and divisions only. The language leaves the last digits of its
 * own `sin` and `exp` to each browser; these give the same bits everywhere, so that a patch renders to the same samples
 * in a page, a worker, an audio thread and a server. Source: Taylor series after range reduction.
 */

const LN2 = 0.6931471805599453;
const TAU = 6.283185307179586;

/** Exact powers of two: number 1022 + n is 2 to the n, n from -1022 to 1023. */
export const POWERS = new Float64Array(2046);
for (let i = 0, up = 1; i <= 1023; i++, up *= 2) POWERS[1022 + i] = up;
for (let i = 0, down = 1; i <= 1022; i++, down /= 2) POWERS[1022 - i] = down;

/** 2 to the power of x, -1000..1000, to within 1e-14 of its value. */
export function exp2(x: number): number {
  const held = x < -1000 ? -1000 : x > 1000 ? 1000 : x;
  const whole = Math.floor(held + 0.5);
  const y = (held - whole) * LN2;
  const series =
    1 +
    y *
      (1 +
        (y / 2) *
          (1 +
            (y / 3) *
              (1 +
                (y / 4) *
                  (1 +
                    (y / 5) *
                      (1 +
                        (y / 6) *
                          (1 +
                            (y / 7) *
                              (1 +
                                (y / 8) *
                                  (1 +
                                    (y / 9) *
                                      (1 + (y / 10) * (1 + (y / 11) * (1 + y / 12)))))))))));
  return series * POWERS[1022 + whole]!;
}

const SINE = [
  TAU,
  -(TAU ** 3) / 6,
  TAU ** 5 / 120,
  -(TAU ** 7) / 5040,
  TAU ** 9 / 362880,
  -(TAU ** 11) / 39916800,
  TAU ** 13 / 6227020800,
  -(TAU ** 15) / 1307674368000,
  TAU ** 17 / 355687428096000,
].map((c) => Number(c.toPrecision(14)));
const [S1, S3, S5, S7, S9, S11, S13, S15, S17] = SINE as [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
];

/** Sine of an angle in turns (1 is a full circle), to within 1e-12. */
export function sinTurns(turns: number): number {
  let t = turns - Math.floor(turns + 0.5);
  // Into the quarter around zero, where the series is short.
  if (t > 0.25) t = 0.5 - t;
  else if (t < -0.25) t = -0.5 - t;
  const q = t * t;
  return (
    t *
    (S1 + q * (S3 + q * (S5 + q * (S7 + q * (S9 + q * (S11 + q * (S13 + q * (S15 + q * S17))))))))
  );
}

/** Cosine of an angle in turns. */
export const cosTurns = (turns: number): number => sinTurns(turns + 0.25);

/** Tangent of an angle in turns; without bound near a quarter. */
export const tanTurns = (turns: number): number => sinTurns(turns) / cosTurns(turns);

/** e to the power of x. */
export const exp = (x: number): number => exp2(x * 1.4426950408889634);

/** The bits of a number: in the upper half sign, exponent and the mantissa's first digits. */
const NUMBER = new Float64Array(1);
const HALVES = new Uint32Array(NUMBER.buffer);
NUMBER[0] = 1;
const UPPER = HALVES[1] === 0 ? 0 : 1;

/**
 * Logarithm to base 2 of x above 0 (as Math.log2 elsewhere), to within 1e-14. Small enough to be taken into whoever asks: no
 * number is put on the heap where sound is made.
 */
export function log2(x: number): number {
  NUMBER[0] = x;
  takeLog2();
  return NUMBER[0]!;
}

/** What NUMBER holds becomes its logarithm. Source: series of the inverse hyperbolic tangent. */
function takeLog2(): void {
  const x = NUMBER[0]!;
  if (!(x > 0) || x === Infinity) {
    NUMBER[0] = x === 0 ? -Infinity : x > 0 ? Infinity : NaN;
    return;
  }
  // Numbers too small for a full mantissa are brought up first.
  const up = x < 1e-300 ? 54 : 0;
  if (up > 0) NUMBER[0] = x * 18014398509481984;
  const upper = HALVES[UPPER]!;
  HALVES[UPPER] = (upper & 0xfffff) | (1023 << 20);
  // From 1 to 2 there is one octave; the series wants it around 1.
  const over = NUMBER[0]! >= 1.4142135623730951 ? 1 : 0;
  const m = NUMBER[0]! * (1 - 0.5 * over);
  const whole = (upper >>> 20) - 1023 + over;
  const z = (m - 1) / (m + 1);
  const q = z * z;
  const series =
    1 +
    q *
      (1 / 3 +
        q *
          (1 / 5 +
            q *
              (1 / 7 +
                q *
                  (1 / 9 +
                    q *
                      (1 / 11 +
                        q *
                          (1 / 13 + q * (1 / 15 + q * (1 / 17 + q * (1 / 19 + q * (1 / 21))))))))));
  NUMBER[0] = whole + (2 * z * series) / LN2 - up;
}

/** Base above 0 to the power of an exponent. */
export const power = (base: number, exponent: number): number =>
  base === 0 ? 0 : exp2(exponent * log2(base));

/** Linear amplitude ratio of decibels. */
export const fromDecibelsPortable = (db: number): number => exp2(db * 0.16609640474436813);
