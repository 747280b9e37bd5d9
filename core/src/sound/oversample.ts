import { kaiser } from './band-limit';
import { sinTurns } from '../theory/portable';

/** How many times the sample rate. */
export const FACTOR = 4;
/** Samples that one filter makes a signal late; going up and down again takes twice as many. */
export const HALF_DELAY = 12;
const TAPS = 2 * HALF_DELAY * FACTOR + 1;

/** Linear-phase low-pass at the original Nyquist frequency: windowed sinc, Kaiser window with beta 8. */
const KERNEL = new Float64Array(TAPS);
let sum = 0;
for (let i = 0; i < TAPS; i++) {
  const x = (i - HALF_DELAY * FACTOR) / FACTOR;
  const sinc = x === 0 ? 1 : sinTurns(x / 2) / (3.141592653589793 * x);
  KERNEL[i] = sinc * kaiser(x / (HALF_DELAY + 0.25), 8);
  sum += KERNEL[i]!;
}
for (let i = 0; i < TAPS; i++) KERNEL[i] = KERNEL[i]! / sum;

const LENGTH = 32;
const LONG = 128;

/** The same, lifted by what the mean of two neighbours of the higher rate takes from the treble, cos(pi f/fs). */
const LIFT = 1 / 8;
const LIFTED = KERNEL.map(
  (tap, i) => (1 + 2 * LIFT) * tap - LIFT * ((KERNEL[i - 1] ?? 0) + (KERNEL[i + 1] ?? 0)),
);

/** Kernel by phase, for going up: FACTOR rows of 25 taps. */
const ROWS = Array.from({ length: FACTOR }, (_, phase) =>
  Float64Array.from(
    { length: 2 * HALF_DELAY + 1 },
    (_, k) => FACTOR * (LIFTED[k * FACTOR + phase] ?? 0),
  ),
);

/** Brings a signal to four times its rate, for something that takes the mean from each sample to the next there. */
export class Upsampler {
  /** The last samples twice over, and where the newest stands. */
  readonly state = { line: new Float64Array(2 * LENGTH), at: new Int32Array(1) };

  /** Takes one sample and fills four. */
  push(sample: number, into: Float64Array): void {
    const { line, at } = this.state;
    const now = (at[0]! + LENGTH - 1) & (LENGTH - 1);
    at[0] = now;
    line[now] = line[now + LENGTH] = sample;
    for (let phase = 0; phase < FACTOR; phase++) {
      const row = ROWS[phase]!;
      let value = 0;
      for (let k = 0; k <= 2 * HALF_DELAY; k++) value += row[k]! * line[now + k]!;
      into[phase] = value;
    }
  }
}

/** Brings a signal at four times the rate back to it. */
export class Downsampler {
  readonly state = { line: new Float64Array(2 * LONG), at: new Int32Array(1) };

  /** Takes four samples and gives one. */
  pull(samples: Float64Array): number {
    const { line, at } = this.state;
    let now = at[0]!;
    // The first of the four stands where the output's own sample is; the others come after it.
    for (let i = 0; i < FACTOR; i++) {
      now = (now + LONG - 1) & (LONG - 1);
      line[now] = line[now + LONG] = samples[i]!;
      if (i === 0) at[0] = now;
    }
    const first = at[0]!;
    at[0] = now;
    let value = 0;
    for (let k = 0; k < TAPS; k++) value += KERNEL[k]! * line[first + k]!;
    return value;
  }
}
