/** A value at a time in seconds. */
export interface TimePoint {
  time: number;
  value: number;
}

/** Level over time in dB of the root mean square against a full-scale sine, windows of `window` seconds, every `every`. */
export function levelPath(
  samples: ArrayLike<number>,
  sampleRate: number,
  window = 0.02,
  every = 0.01,
): TimePoint[] {
  const length = Math.max(1, Math.round(window * sampleRate));
  const hop = Math.max(1, Math.round(every * sampleRate));
  const path: TimePoint[] = [];
  for (let from = 0; from + length <= samples.length; from += hop) {
    let power = 0;
    for (let i = 0; i < length; i++) power += samples[from + i]! ** 2;
    const rms = Math.sqrt((2 * power) / length);
    path.push({
      time: (from + length / 2) / sampleRate,
      value: 20 * Math.log10(Math.max(1e-6, rms)),
    });
  }
  return path;
}

/** Largest absolute sample. */
export function peakOf(samples: Iterable<number>): number {
  let peak = 0;
  for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
  return peak;
}
