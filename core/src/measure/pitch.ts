/**
 * Fundamental frequency in Hz of a stretch of sound, by the normalised square difference; undefined when there is no
 * clear pitch between `lowest` and `highest`.
 * Source: P. McLeod and G. Wyvill, A Smarter Way to Find Pitch, ICMC 2005.
 * @param samples at least two periods of the lowest pitch
 */
export function fundamentalOf(
  samples: ArrayLike<number>,
  sampleRate: number,
  lowest = 25,
  highest = 4000,
): number | undefined {
  const longest = Math.min(Math.floor(sampleRate / lowest), Math.floor(samples.length / 2));
  const shortest = Math.max(2, Math.floor(sampleRate / highest));
  const window = samples.length - longest;
  const clarity = new Float64Array(longest + 1);
  for (let lag = 1; lag <= longest; lag++) {
    let product = 0;
    let power = 0;
    for (let i = 0; i < window; i++) {
      const a = samples[i]!;
      const b = samples[i + lag]!;
      product += a * b;
      power += a * a + b * b;
    }
    clarity[lag] = power > 1e-12 ? (2 * product) / power : 0;
  }
  const peaks: number[] = [];
  let belowZero = false;
  for (let lag = 2; lag < longest; lag++) {
    if (clarity[lag]! < 0) belowZero = true;
    if (
      belowZero &&
      lag >= shortest &&
      clarity[lag]! > clarity[lag - 1]! &&
      clarity[lag]! >= clarity[lag + 1]!
    ) {
      peaks.push(lag);
    }
  }
  const best = Math.max(0, ...peaks.map((p) => clarity[p]!));
  if (best < 0.5) return undefined;
  const lag = peaks.find((p) => clarity[p]! >= 0.93 * best)!;
  const [a, b, c] = [clarity[lag - 1]!, clarity[lag]!, clarity[lag + 1]!];
  const bend = a - 2 * b + c;
  const offset = bend === 0 ? 0 : (0.5 * (a - c)) / bend;
  return sampleRate / (lag + offset);
}
