import FFT from 'fft.js';

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
  const clarity = squareDifference(samples, longest);
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

/**
 * Normalised square difference for lags 0..longest: `2 sum(x[i] x[i+lag]) / sum(x[i]^2 + x[i+lag]^2)`, the products by
 * way of the power spectrum.
 */
function squareDifference(samples: ArrayLike<number>, longest: number): Float64Array {
  const size = 2 ** Math.ceil(Math.log2(2 * samples.length));
  const fft = new FFT(size);
  const padded = new Array<number>(size).fill(0);
  for (let i = 0; i < samples.length; i++) padded[i] = samples[i]!;
  const bins = fft.createComplexArray();
  fft.realTransform(bins, padded);
  fft.completeSpectrum(bins);
  for (let i = 0; i < size; i++) {
    bins[2 * i] = bins[2 * i]! ** 2 + bins[2 * i + 1]! ** 2;
    bins[2 * i + 1] = 0;
  }
  const products = fft.createComplexArray();
  fft.inverseTransform(products, bins);
  const clarity = new Float64Array(longest + 1);
  let power = 2 * products[0]!;
  for (let lag = 1; lag <= longest; lag++) {
    power -= samples[lag - 1]! ** 2 + samples[samples.length - lag]! ** 2;
    clarity[lag] = power > 1e-12 ? (2 * products[2 * lag]!) / power : 0;
  }
  return clarity;
}
