import { evenSum, lowPass } from './kernel-sums';

/** How many times the sample rate. */
export const FACTOR = 4;
/** Samples that the filter makes a signal late. */
const HALF_DELAY = 12;
const KERNEL = lowPass(FACTOR, HALF_DELAY, 8);

const LONG = 128;

/** Brings a signal at four times the rate back to it. */
export class Downsampler {
  readonly state = { line: new Float64Array(2 * LONG), at: new Int32Array(1) };

  /** Takes four for each of the samples `from` up to, without, `to`, and gives those. */
  down(samples: Float64Array, into: Float64Array, from: number, to: number): void {
    const { line, at } = this.state;
    let now = at[0]!;
    for (let i = from; i < to; i++) {
      // The first of the four stands where the output's own sample is; the others come after it.
      const first = (now + LONG - 1) & (LONG - 1);
      for (let k = 0; k < FACTOR; k++) {
        now = (now + LONG - 1) & (LONG - 1);
        line[now] = line[now + LONG] = samples[FACTOR * i + k]!;
      }
      into[i] = evenSum(KERNEL, line, first);
    }
    at[0] = now;
  }
}
