import { spectrum } from './spectrum';
import { powerFrames } from './frames';
import type { TimePoint } from './level';

export interface Harmonics {
  /** Level of each harmonic in dB against the loudest, from the fundamental on. */
  decibels: number[];
  /** Power of all harmonics over that of everything else, in dB. */
  overNoise: number;
}

const SIZE = 16384;
/** Bins to each side that belong to a line under the four-term window. */
const LINE = 5;

/** Levels of the harmonics of a fundamental in Hz, read from 16384 samples from `from` on, up to `highest` Hz. */
export function harmonicsOf(
  samples: ArrayLike<number>,
  sampleRate: number,
  hz: number,
  from = 0,
  highest = 10000,
): Harmonics {
  const found = spectrum(samples, sampleRate, from, SIZE);
  const powers = Array.from(found.decibels, (db) => 10 ** (db / 10));
  const taken = new Uint8Array(powers.length);
  const levels: number[] = [];
  for (let n = 1; n * hz < Math.min(highest, sampleRate / 2); n++) {
    const middle = Math.round((n * hz) / found.binHz);
    let power = 0;
    for (let i = Math.max(1, middle - LINE); i <= middle + LINE && i < powers.length; i++) {
      if (taken[i]) continue;
      taken[i] = 1;
      power += powers[i]!;
    }
    levels.push(power);
  }
  const all = powers.slice(1).reduce((sum, p) => sum + p, 0);
  const harmonic = levels.reduce((sum, p) => sum + p, 0);
  const loudest = Math.max(...levels, 1e-30);
  return {
    decibels: levels.map((p) => 10 * Math.log10(Math.max(1e-12, p / loudest))),
    overNoise: 10 * Math.log10(harmonic / Math.max(1e-12 * harmonic, all - harmonic)),
  };
}

/** Spectral centroid in Hz over time: the mean frequency, weighted by amplitude; nothing where it is silent. */
export function centroidPath(
  samples: ArrayLike<number>,
  sampleRate: number,
  size = 2048,
  hop = 512,
): TimePoint[] {
  const bin = sampleRate / size;
  return powerFrames(samples, size, hop).flatMap((power, frame) => {
    let [sum, weighted] = [0, 0];
    for (let i = 1; i < power.length; i++) {
      const amplitude = Math.sqrt(power[i]!);
      sum += amplitude;
      weighted += amplitude * i * bin;
    }
    return sum < 1e-5
      ? []
      : [{ time: (frame * hop + size / 2) / sampleRate, value: weighted / sum }];
  });
}

/** Centroid in Hz of the whole sound; 0 when it is silent. */
export function centroidOf(samples: ArrayLike<number>, sampleRate: number): number {
  const path = centroidPath(samples, sampleRate);
  return path.length === 0 ? 0 : path.reduce((sum, p) => sum + p.value, 0) / path.length;
}

/**
 * Stereo width: power of the difference of both sides over the power of sum and difference. 0 is mono, 0.5 two sounds
 * that have nothing to do with each other, 1 the same sound turned over on one side.
 */
export function widthOf(left: ArrayLike<number>, right: ArrayLike<number>): number {
  let [middle, side] = [0, 0];
  for (let i = 0; i < left.length; i++) {
    middle += (left[i]! + right[i]!) ** 2;
    side += (left[i]! - right[i]!) ** 2;
  }
  return middle + side === 0 ? 0 : side / (middle + side);
}
