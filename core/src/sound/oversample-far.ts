import { evenSum, fourSums, inFours, lowPass } from './kernel-sums';

/**
 * Sixteen or thirty-two times the sample rate, for curves that bend a loud sound far. In two steps: by four with a steep
 * filter, then by four or eight with a short one, since nothing is left between 24 and 168 kHz by then. Both are windowed
 * sincs (Kaiser): images and what folds down are 100 dB under the sound.
 */
export type FarFactor = 16 | 32;

const NEAR = 4;
const NEAR_HALF = 24;
const STEP_HALF = 4;
/** Samples of the original rate that going up and down again makes a signal late. */
export const FAR_LATE = 2 * NEAR_HALF + (2 * STEP_HALF) / NEAR;

const NEAR_KERNEL = lowPass(NEAR, NEAR_HALF, 10);

const NEAR_TAPS = 2 * NEAR_HALF + 1;
const STEP_TAPS = 2 * STEP_HALF + 1;

const NEAR_UP = inFours(NEAR_KERNEL, NEAR, NEAR_TAPS)[0]!;

/** The second step by four or eight: the filter, and its phases in fours. */
const stepBy = (step: number) => {
  const kernel = lowPass(step, STEP_HALF, 10);
  return { step, kernel, up: inFours(kernel, step, STEP_TAPS) };
};
const STEPS = { 16: stepBy(4), 32: stepBy(8) };

/** Longer than anything that is kept: the longer, the more seldom it is moved to the end. */
const LENGTH = 1024;

/**
 * The last samples, the newest at the lowest place. When the beginning is reached, what is still needed goes to the end:
 * every read is one stretch, and nothing is written twice.
 */
const lineOf = (kept: number) => ({
  line: new Float64Array(LENGTH),
  at: new Int32Array([LENGTH - kept]),
});

/** Makes room for `count` samples before the newest of the `kept`. @returns where the newest stands */
function room(line: Float64Array, at: Int32Array, count: number, kept: number): number {
  let now = at[0]!;
  if (now < count) {
    line.copyWithin(LENGTH - kept, now, now + kept);
    now = LENGTH - kept;
  }
  at[0] = now - count;
  return now;
}

export class FarUpsampler {
  readonly state = { near: lineOf(NEAR_TAPS), step: lineOf(STEP_TAPS) };
  private readonly four = new Float64Array(NEAR);
  private readonly rows: readonly Float64Array[];

  constructor(private readonly factor: FarFactor) {
    this.rows = STEPS[factor].up;
  }

  /** Takes samples `from` up to, without, `to`, and fills as many as it says for each, from factor * from on. */
  up(samples: Float64Array, from: number, to: number, into: Float64Array): void {
    const { near, step } = this.state;
    const { four, rows } = this;
    const a = near.line;
    const b = step.line;
    for (let i = from, at = this.factor * from; i < to; i++) {
      const newest = room(a, near.at, 1, NEAR_TAPS) - 1;
      a[newest] = samples[i]!;
      fourSums(NEAR_UP, a, newest, NEAR_TAPS, four, 0);
      let then = room(b, step.at, NEAR, STEP_TAPS);
      for (let p = 0; p < NEAR; p++) {
        b[--then] = four[p]!;
        for (let r = 0; r < rows.length; r++, at += 4)
          fourSums(rows[r]!, b, then, STEP_TAPS, into, at);
      }
    }
  }
}

export class FarDownsampler {
  readonly state;
  private readonly kernel: Float64Array;

  constructor(private readonly factor: FarFactor) {
    this.kernel = STEPS[factor].kernel;
    this.state = { near: lineOf(NEAR_KERNEL.length), step: lineOf(this.kernel.length) };
  }

  /** Takes as many as it says for each of the samples `from` up to, without, `to`, and gives those. */
  down(samples: Float64Array, into: Float64Array, from: number, to: number): void {
    const { near, step } = this.state;
    const { factor, kernel } = this;
    const each = factor / NEAR;
    const a = step.line;
    const b = near.line;
    for (let i = from, at = factor * from; i < to; i++) {
      let now = room(a, step.at, factor, kernel.length);
      let then = room(b, near.at, NEAR, NEAR_KERNEL.length);
      // The first of each group stands where the sample of the lower rate is; the others come after it.
      const first = then - 1;
      for (let p = 0; p < NEAR; p++) {
        const middle = now - 1;
        for (let q = 0; q < each; q++) a[--now] = samples[at++]!;
        b[--then] = evenSum(kernel, a, middle);
      }
      into[i] = evenSum(NEAR_KERNEL, b, first);
    }
  }
}
