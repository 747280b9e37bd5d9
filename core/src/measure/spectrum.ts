import FFT from 'fft.js';

export interface Spectrum {
  /** Width of a bin in Hz; bin i stands for i times as much. */
  binHz: number;
  /** Level of each bin from 0 to Nyquist in dB; a sine of peak 1 reads 0. */
  decibels: Float64Array;
}

const FLOOR = 1e-8;

/**
 * Spectrum of `size` samples (a power of two) from `from` on, zeros where there are none, under a four-term
 * Blackman-Harris window (side lobes below -92 dB).
 * Source: F. J. Harris, On the Use of Windows for Harmonic Analysis, Proc. IEEE 66 (1978).
 */
export function spectrum(
  samples: ArrayLike<number>,
  sampleRate: number,
  from: number,
  size: number,
): Spectrum {
  const fft = new FFT(size);
  const input = new Float64Array(size);
  let sum = 0;
  for (let i = 0; i < size; i++) {
    const t = (2 * Math.PI * i) / size;
    const w =
      0.35875 - 0.48829 * Math.cos(t) + 0.14128 * Math.cos(2 * t) - 0.01168 * Math.cos(3 * t);
    sum += w;
    input[i] = w * (samples[from + i] ?? 0);
  }
  const out = fft.createComplexArray();
  fft.realTransform(out, Array.from(input));
  const decibels = new Float64Array(size / 2 + 1);
  for (let i = 0; i <= size / 2; i++) {
    const level = (2 * Math.hypot(out[2 * i]!, out[2 * i + 1]!)) / sum;
    decibels[i] = 20 * Math.log10(Math.max(FLOOR, level));
  }
  return { binHz: sampleRate / size, decibels };
}

/** A spectrum as a plot over log frequency shows it: the highest bin of each band of equal ratio, each bin once. */
export function toBands(
  from: Spectrum,
  lowest: number,
  highest: number,
  bands: number,
): { hz: number; db: number }[] {
  const ratio = (highest / lowest) ** (1 / bands);
  const found: { hz: number; db: number }[] = [];
  let next = Math.ceil(lowest / from.binHz);
  for (let b = 1; b <= bands; b++) {
    const end = Math.min(Math.floor((lowest * ratio ** b) / from.binHz), from.decibels.length - 1);
    let best = -1;
    for (let i = next; i <= end; i++) {
      if (best < 0 || from.decibels[i]! > from.decibels[best]!) best = i;
    }
    if (best >= 0) found.push({ hz: best * from.binHz, db: from.decibels[best]! });
    next = Math.max(next, end + 1);
  }
  return found;
}
