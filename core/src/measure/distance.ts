import { powerFrames } from './frames';
import { pitchOf } from './pitch';

/** How far two sounds are apart, as ears tell them apart. */
export interface Distance {
  /** Mean difference in dB over time and mel bands, once level and pitch are made equal. */
  timbre: number;
  /** dB by which the second is louder. */
  level: number;
  /** Cents by which the second is higher; 0 when either has no clear pitch. */
  pitch: number;
  /** All three in one number: timbre, a third of the level, and a semitone as 3 dB at most 6. */
  total: number;
}

const BANDS = 40;
const LOWEST = 40;
const HIGHEST = 10000;
/** dB below a sound's own loudest band at which hearing ends. */
const RANGE = 60;
/** Weight of movement against shape. */
const UNREST = 2;

const mel = (hz: number): number => 2595 * Math.log10(1 + hz / 700);
const fromMel = (m: number): number => 700 * (10 ** (m / 2595) - 1);

/** A sound prepared for comparing: levels in mel bands over time, its level and its pitch. */
export interface Portrait {
  sampleRate: number;
  size: number;
  frames: Float64Array[];
  /** dB of the mean power. */
  level: number;
  hz?: number;
}

/** Prepares a sound. Frames of about 43 ms, every 21 ms. */
export function portrait(samples: Float32Array, sampleRate: number): Portrait {
  const size = 2 ** Math.round(Math.log2(sampleRate * 0.043));
  const frames = powerFrames(samples, size, size / 2);
  let power = 0;
  for (const v of samples) power += v * v;
  const level = 10 * Math.log10(Math.max(1e-12, power / Math.max(1, samples.length)));
  // Where it is loudest there is most to tell its pitch by.
  let loudest = 0;
  let most = -1;
  frames.forEach((frame, f) => {
    let sum = 0;
    for (const p of frame) sum += p;
    if (sum > most) [most, loudest] = [sum, f];
  });
  const from = (loudest * size) / 2;
  const pitch = pitchOf(samples.subarray(from, from + 2 * size), sampleRate);
  return {
    sampleRate,
    size,
    frames,
    level,
    ...(pitch && pitch.confidence > 0.9 ? { hz: pitch.hz } : {}),
  };
}

/** dB in each band of each frame, against the loudest; bands moved along with a pitch by `ratio`. */
function bands(of: Portrait, ratio: number): Float64Array[] {
  const bin = of.sampleRate / of.size;
  const top = Math.min(HIGHEST, of.sampleRate / 2 / Math.max(1, ratio) - 2 * bin);
  const step = (mel(top) - mel(LOWEST)) / (BANDS + 1);
  const edges = Array.from(
    { length: BANDS + 2 },
    (_, b) => (fromMel(mel(LOWEST) + b * step) * ratio) / bin,
  );
  let loudest = 1e-12;
  const out = of.frames.map((power) => {
    const row = new Float64Array(BANDS);
    for (let b = 0; b < BANDS; b++) {
      const [low, middle, high] = [edges[b]!, edges[b + 1]!, edges[b + 2]!];
      let sum = 0;
      for (let i = Math.max(1, Math.ceil(low)); i < high && i < power.length; i++) {
        sum += power[i]! * (i < middle ? (i - low) / (middle - low) : (high - i) / (high - middle));
      }
      // A band narrower than a bin takes its share of the bin it lies in.
      if (high - low < 2) sum = Math.max(sum, power[Math.round(middle)]! * 0.5);
      row[b] = sum;
      if (sum > loudest) loudest = sum;
    }
    return row;
  });
  const floor = loudest * 10 ** (-RANGE / 10);
  for (const row of out) {
    for (let b = 0; b < BANDS; b++) row[b] = 10 * Math.log10(Math.max(floor, row[b]!) / loudest);
  }
  return out;
}

/** Mean change in dB from one frame to the next: what beats and other quick movement make, wherever they stand. */
function unrest(rows: readonly Float64Array[]): number {
  let sum = 0;
  let count = 0;
  for (let f = 1; f < rows.length; f++) {
    for (let k = 0; k < BANDS; k++) {
      const [x, y] = [rows[f - 1]![k]!, rows[f]![k]!];
      if (x <= -RANGE || y <= -RANGE) continue;
      sum += Math.abs(y - x);
      count++;
    }
  }
  return count === 0 ? 0 : sum / count;
}

/**
 * Distance of two sounds by their log-mel spectrograms: mean absolute difference in dB over all bands and frames in which
 * either is heard, and how much more the one moves from frame to frame than the other. Level is taken out by the mean, pitch by moving the second's bands along with it.
 * Source: S. Davis and P. Mermelstein, Comparison of Parametric Representations, IEEE ASSP 28 (1980), for the bands.
 */
export function distanceOf(a: Portrait, b: Portrait): Distance {
  const cents = a.hz && b.hz ? 1200 * Math.log2(b.hz / a.hz) : 0;
  // More than an octave off is another note, or a mistaken octave: nothing is moved.
  const ratio = Math.abs(cents) < 1250 ? 2 ** (cents / 1200) : 1;
  const [p, q] = [bands(a, 1), bands(b, ratio)];
  // Cells in which either is heard, with the second against the first.
  const apart: number[] = [];
  for (let f = 0; f < Math.max(p.length, q.length); f++) {
    for (let k = 0; k < BANDS; k++) {
      const x = p[f]?.[k] ?? -RANGE;
      const y = q[f]?.[k] ?? -RANGE;
      if (x > -RANGE || y > -RANGE) apart.push(y - x);
    }
  }
  const louder = apart.reduce((sum, d) => sum + d, 0) / Math.max(1, apart.length);
  const shape = apart.reduce((sum, d) => sum + Math.abs(d - louder), 0) / Math.max(1, apart.length);
  const timbre = shape + UNREST * Math.abs(unrest(p) - unrest(q));
  const silent = a.level <= -110 && b.level <= -110;
  const level = silent ? 0 : b.level - a.level;
  const total =
    timbre + Math.min(20, Math.abs(level)) / 3 + Math.min(6, (3 * Math.abs(cents)) / 100);
  return { timbre, level, pitch: cents, total };
}
