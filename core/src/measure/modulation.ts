import type { TimePoint } from './level';
import { levelPath } from './level';
import { pitchOf } from './pitch';
import { centroidPath } from './timbre';

/** A regular movement: cycles a second, and how far from its middle it goes to each side. */
export interface Modulation {
  rate: number;
  depth: number;
}

const SLOWEST = 0.2;
const FASTEST = 25;

/**
 * The strongest regular movement of a path, once what rises or falls all along is taken off: the frequency between 0.2
 * and 25 Hz at which its Fourier transform is highest, and the amplitude there. Undefined when that is less than `least`,
 * or when the path is shorter than two cycles of it.
 */
export function modulationOf(path: readonly TimePoint[], least: number): Modulation | undefined {
  if (path.length < 8) return undefined;
  const span = path.at(-1)!.time - path[0]!.time;
  const n = path.length;
  // Least squares line.
  const meanT = path.reduce((s, p) => s + p.time, 0) / n;
  const meanV = path.reduce((s, p) => s + p.value, 0) / n;
  const slope =
    path.reduce((s, p) => s + (p.time - meanT) * (p.value - meanV), 0) /
    path.reduce((s, p) => s + (p.time - meanT) ** 2, 0);
  const left = path.map((p, i) => ({
    time: p.time,
    // Under a Hann window, so that neighbours do not leak.
    value:
      (p.value - meanV - slope * (p.time - meanT)) * 2 * Math.sin((Math.PI * (i + 0.5)) / n) ** 2,
  }));
  const amplitude = (hz: number): number => {
    let [re, im] = [0, 0];
    for (const p of left) {
      re += p.value * Math.cos(2 * Math.PI * hz * p.time);
      im += p.value * Math.sin(2 * Math.PI * hz * p.time);
    }
    return (2 * Math.hypot(re, im)) / n;
  };
  const from = Math.max(SLOWEST, 2 / span);
  let best = from;
  for (let hz = from; hz <= FASTEST; hz += 0.25 / span) {
    if (amplitude(hz) > amplitude(best)) best = hz;
  }
  let step = 0.125 / span;
  for (let round = 0; round < 12; round++, step /= 2) {
    for (const hz of [best - step, best + step]) if (amplitude(hz) > amplitude(best)) best = hz;
  }
  const depth = amplitude(best);
  return depth >= least ? { rate: best, depth } : undefined;
}

/** Pitch in cents against `reference` Hz over time, where there is a clear one. */
export function pitchPath(
  samples: Float32Array | Float64Array,
  sampleRate: number,
  reference: number,
  window = 2048,
): TimePoint[] {
  const path: TimePoint[] = [];
  const hop = Math.round(0.01 * sampleRate);
  for (let from = 0; from + window <= samples.length; from += hop) {
    const part = samples.subarray(from, from + window);
    const pitch = pitchOf(part, sampleRate, reference / 1.6, reference * 1.6);
    if (pitch && pitch.confidence > 0.8) {
      path.push({
        time: (from + window / 2) / sampleRate,
        value: 1200 * Math.log2(pitch.hz / reference),
      });
    }
  }
  return path;
}

/** Vibrato: movement of the pitch, depth in cents. At least 2 cents. */
export const vibratoOf = (
  samples: Float32Array | Float64Array,
  sampleRate: number,
  hz: number,
): Modulation | undefined =>
  modulationOf(
    pitchPath(samples, sampleRate, hz, Math.max(1024, Math.ceil((3.5 * sampleRate) / hz))),
    2,
  );

/** Tremolo: movement of the level, depth in dB. At least 0.3 dB. The windows span two periods of the fundamental. */
export const tremoloOf = (
  samples: ArrayLike<number>,
  sampleRate: number,
  hz = 100,
): Modulation | undefined => modulationOf(levelPath(samples, sampleRate, 2 / hz, 0.01), 0.3);

/** Swing of the spectrum, as a filter makes it: of the centroid, depth in octaves. At least a twentieth. */
export const sweepOf = (samples: ArrayLike<number>, sampleRate: number): Modulation | undefined =>
  modulationOf(
    centroidPath(samples, sampleRate).map((p) => ({ time: p.time, value: Math.log2(p.value) })),
    0.05,
  );

/**
 * Beats of the fundamental in Hz: the movement of its own level, taken by a moving window that spans a few periods.
 * @param hz fundamental
 */
export function beatRateOf(
  samples: ArrayLike<number>,
  sampleRate: number,
  hz: number,
): number | undefined {
  const length = Math.round((4 * sampleRate) / hz);
  const hop = Math.round(0.01 * sampleRate);
  const path: TimePoint[] = [];
  for (let from = 0; from + length <= samples.length; from += hop) {
    let [re, im] = [0, 0];
    for (let i = 0; i < length; i++) {
      const w = Math.sin((Math.PI * i) / length) ** 2;
      const angle = (2 * Math.PI * hz * (from + i)) / sampleRate;
      re += w * samples[from + i]! * Math.cos(angle);
      im += w * samples[from + i]! * Math.sin(angle);
    }
    path.push({ time: (from + length / 2) / sampleRate, value: (4 * Math.hypot(re, im)) / length });
  }
  const middle = path.reduce((sum, p) => sum + p.value, 0) / Math.max(1, path.length);
  return modulationOf(path, 0.05 * middle)?.rate;
}
