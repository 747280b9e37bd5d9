import { BLOCK, tiny } from './kernel';

/**
 * Coefficients of two chains of all-passes that together are an elliptic half-band low-pass: passes to 0.417 of the lower
 * rate, stops 64 dB from 0.583 of it on. Design after Valenzuela and Constantinides, Digital signal processing schemes for
 * efficient interpolation and decimation (1983), four coefficients, transition 0.083 of the higher rate.
 */
const HALF_BAND = [0.089922015367, 0.311525232734, 0.578049669719, 0.851016615942] as const;
const [A0, A1, A2, A3] = HALF_BAND;

/**
 * A signal at twice its rate and back, for what makes new harmonics: those that the lower rate has no room for are taken
 * away before they fold. It takes little time rather than keeping all phases: up and down
 * again a low tone comes late by 2.2 samples. The buffer is reused.
 */
export class TwiceRate {
  /** The samples of the double rate. */
  readonly samples: Float64Array;
  /** What the chains remember, going up and coming down. */
  readonly state = new Float64Array(11);

  /** @param size samples of the lower rate at a time, at most */
  constructor(size = BLOCK) {
    this.samples = new Float64Array(2 * size);
  }

  /** Fills its samples with those `from` up to, without, `to` of a signal. */
  up(input: Float64Array, from: number, to: number): void {
    const { samples, state: S } = this;
    let x1 = S[0]!;
    let p1 = S[1]!;
    let q1 = S[2]!;
    let u1 = S[3]!;
    let v1 = S[4]!;
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      const p = A0 * (x - p1) + x1;
      const q = A2 * (p - q1) + p1;
      const u = A1 * (x - u1) + x1;
      const v = A3 * (u - v1) + u1;
      samples[2 * i] = q;
      samples[2 * i + 1] = v;
      x1 = x;
      p1 = p;
      q1 = q;
      u1 = u;
      v1 = v;
    }
    S[0] = tiny(x1);
    S[1] = tiny(p1);
    S[2] = tiny(q1);
    S[3] = tiny(u1);
    S[4] = tiny(v1);
  }

  /** Brings its samples back to the lower rate. */
  down(out: Float64Array, from: number, to: number): void {
    const { samples, state: S } = this;
    let x1 = S[5]!;
    let p1 = S[6]!;
    let q1 = S[7]!;
    let y1 = S[8]!;
    let u1 = S[9]!;
    let v1 = S[10]!;
    for (let i = from; i < to; i++) {
      const y = samples[2 * i]!;
      const x = samples[2 * i + 1]!;
      const p = A0 * (x - p1) + x1;
      const q = A2 * (p - q1) + p1;
      const u = A1 * (y - u1) + y1;
      const v = A3 * (u - v1) + u1;
      out[i] = 0.5 * (q + v);
      x1 = x;
      y1 = y;
      p1 = p;
      q1 = q;
      u1 = u;
      v1 = v;
    }
    S[5] = tiny(x1);
    S[6] = tiny(p1);
    S[7] = tiny(q1);
    S[8] = tiny(y1);
    S[9] = tiny(u1);
    S[10] = tiny(v1);
  }
}
