import FFT from 'fft.js';

/** A pitch, and how sure it is: 1 repeats exactly, below 0.5 it is none. */
export interface Pitch {
  hz: number;
  confidence: number;
}

/** Fundamental frequency in Hz; see `pitchOf`. */
export const fundamentalOf = (
  samples: ArrayLike<number>,
  sampleRate: number,
  lowest?: number,
  highest?: number,
): number | undefined => pitchOf(samples, sampleRate, lowest, highest)?.hz;

/**
 * Fundamental frequency of a stretch of sound, by the normalised square difference; undefined when there is no
 * clear pitch between `lowest` and `highest`. The period is read off as many periods later as still repeat well: that
 * many times more finely.
 * Source: P. McLeod and G. Wyvill, A Smarter Way to Find Pitch, ICMC 2005.
 * @param samples at least two periods of the lowest pitch
 */
export function pitchOf(
  samples: ArrayLike<number>,
  sampleRate: number,
  lowest = 25,
  highest = 4200,
): Pitch | undefined {
  const longest = Math.min(Math.floor(sampleRate / lowest), Math.floor(samples.length / 2));
  const shortest = Math.max(2, Math.floor(sampleRate / highest));
  const { clarity, between } = squareDifference(samples, longest);
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
  let period = lag + offsetAt(clarity, lag);
  // A short period between two lags shows less than a multiple of it that happens to meet one.
  for (let parts = MOST_PARTS; parts > 1; parts--) {
    const part = period / parts;
    if (part < shortest || period > COARSE || between(part) < 0.93 * best) continue;
    period = part;
    break;
  }
  const confidence = Math.min(1, clarity[lag]!);
  // Twice as late each time, as long as it repeats nearly as well there.
  for (let count = 2; count * period < longest - 2; count *= 2) {
    const near = peakNear(clarity, Math.round(count * period), Math.max(1, Math.round(period / 3)));
    if (near === undefined || clarity[near]! < 0.9 * confidence) break;
    period = (near + offsetAt(clarity, near)) / count;
  }
  return { hz: sampleRate / period, confidence };
}

/** Periods up to this many samples may be missed between two lags, and multiples up to so many taken for them. */
const COARSE = 200;
const MOST_PARTS = 6;

/** Highest point within some lags of another; undefined when it is at the edge of them. */
function peakNear(clarity: Float64Array, lag: number, reach: number): number | undefined {
  let best = lag;
  for (let l = lag - reach; l <= lag + reach; l++) if (clarity[l]! > clarity[best]!) best = l;
  const inside = clarity[best - 1]! <= clarity[best]! && clarity[best + 1]! <= clarity[best]!;
  return inside ? best : undefined;
}

/** Where between lags the top of the parabola through three stands. */
function offsetAt(clarity: Float64Array, lag: number): number {
  const [a, b, c] = [clarity[lag - 1]!, clarity[lag]!, clarity[lag + 1]!];
  const bend = a - 2 * b + c;
  return bend === 0 ? 0 : (0.5 * (a - c)) / bend;
}

/**
 * Normalised square difference for lags 0..longest: `2 sum(x[i] x[i+lag]) / sum(x[i]^2 + x[i+lag]^2)`, the products by
 * way of the power spectrum; and the same between two lags, from the spectrum itself.
 */
function squareDifference(
  samples: ArrayLike<number>,
  longest: number,
): { clarity: Float64Array; between: (lag: number) => number } {
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
  const power = new Float64Array(longest + 1);
  power[0] = 2 * products[0]!;
  for (let lag = 1; lag <= longest; lag++) {
    power[lag] = power[lag - 1]! - samples[lag - 1]! ** 2 - samples[samples.length - lag]! ** 2;
    clarity[lag] = power[lag]! > 1e-12 ? (2 * products[2 * lag]!) / power[lag]! : 0;
  }
  const between = (lag: number): number => {
    const turn = (2 * Math.PI * lag) / size;
    let sum = bins[0]!;
    for (let k = 1; k < size / 2; k++) sum += 2 * bins[2 * k]! * Math.cos(turn * k);
    const below = Math.floor(lag);
    const whole = power[below]! + (lag - below) * (power[below + 1]! - power[below]!);
    return whole > 1e-12 ? (2 * sum) / size / whole : 0;
  };
  return { clarity, between };
}
