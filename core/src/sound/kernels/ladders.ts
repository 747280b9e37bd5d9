import { type Kernel, type KernelContext, tiny } from '../kernel';
import { cosTurns } from '../portable';
import { CutoffFollower } from './cutoff';

/** Loop gain of the ladder: 4 whistles. */
export const ladderLoopGain = (resonance: number): number => 4.4 * resonance;

/** Level in V at which the ladder's input stage saturates. */
const SATURATION = 7;
/** It saturates along u - 4u^3/27 (in units of that level), up to one and a half of it. */
const CUBIC = 4 / (27 * SATURATION * SATURATION);
const CLIPS = 2.25 * SATURATION * SATURATION;
/** In an array, so that they are floating point numbers from the start: a mix of kinds is slow. */
const CURVE = Float64Array.of(CLIPS, CUBIC, SATURATION);
/** Level of the circuit's own noise in V, from which a whistle starts. */
const HISS = 1e-5;

/**
 * Four-pole ladder low-pass with a saturating input stage. The loop is solved as if it were linear, and what goes into
 * the first pole saturates after that: whatever the level, the loop's phase stays that of the linear circuit, so the
 * whistle stays in tune. The passband falls by 1/(1+k) as the loop gain k rises; `bass` gives it back.
 */
export function lowPass24(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const cutoff = new CutoffFollower(context, 'pole');
  const resonance = context.number('resonance');
  const bass = context.number('bass');
  const { random } = context;
  const S = new Float64Array(4);
  return {
    state: { S, random: random.state },
    process(from, to) {
      cutoff.fill(from, to);
      const poles = cutoff.values;
      const kSlope = 4.4 * resonance.slope;
      const k0 = 4.4 * resonance.was;
      const hiss = 4.4 * resonance.value >= 4 || k0 >= 4 ? HISS : 0;
      const level = 1 + (bass.value / 100) * 4.4 * resonance.value;
      let s1 = S[0]!;
      let s2 = S[1]!;
      let s3 = S[2]!;
      let s4 = S[3]!;
      const x = input;
      const y = out;
      const clips = CURVE[0]!;
      const cubic = CURVE[1]!;
      const most = CURVE[2]!;
      let k = k0 + kSlope * from;
      for (let i = from; i < to; i++) {
        const a = poles[i]!;
        const b = 1 - a;
        const a2 = a * a;
        const a4 = a2 * a2;
        const open = 1 / (1 + k * a4);
        const ab = a * b;
        let fed = level * x[i]!;
        if (hiss !== 0) fed += hiss * (random.next() - 0.5);
        // What comes out of the fourth pole if nothing goes in. All of this is ordered so that little has to wait for
        // the sample before: the loop is as fast as its longest chain.
        const held = b * s4 + ab * s3 + (a * ab * s2 + a2 * ab * s1);
        const u = fed * open - k * open * held;
        const q = u * u;
        const driven = q < clips ? u - u * (q * cubic) : u > 0 ? most : -most;
        const h1 = b * s1;
        const h2 = b * s2 + a * h1;
        const h3 = b * s3 + a * h2;
        s1 = 2 * h1 - s1 + 2 * a * driven;
        s2 = 2 * h2 - s2 + 2 * a2 * driven;
        s3 = 2 * h3 - s3 + 2 * a * a2 * driven;
        s4 = 2 * held - s4 + 2 * a4 * driven;
        const y4 = held + a4 * driven;
        y[i] = y4 > 20 ? 20 : y4 < -20 ? -20 : y4;
        k += kSlope;
      }
      S[0] = tiny(s1);
      S[1] = tiny(s2);
      S[2] = tiny(s3);
      S[3] = tiny(s4);
    },
  };
}

/** Loop gain at which the diode ladder whistles. */
export const DIODE_WHISTLE = 17;
const DIODE_EARLY = 0.8;

/** Loop gain of the diode ladder: up to the whistle at 0.8 of its travel, then on more slowly, to a tenth more. */
export const diodeLoopGain = (resonance: number): number =>
  resonance < DIODE_EARLY
    ? (DIODE_WHISTLE * resonance) / DIODE_EARLY
    : DIODE_WHISTLE * (1 + 0.5 * (resonance - DIODE_EARLY));

/** Level in V and bias of its input stage, and level at which its loop saturates. */
const DIODE_VOLTS = 5;
const BIAS = 0.4;
const DIODE_LOOP = 20;
const DIODE_CUBIC = 4 / (27 * DIODE_LOOP * DIODE_LOOP);
const DIODE_CLIPS = 2.25 * DIODE_LOOP * DIODE_LOOP;
const DIODE_CURVE = Float64Array.of(DIODE_CLIPS, DIODE_CUBIC, DIODE_LOOP);

/** Poles of four coupled stages as multiples of the frequency at which they turn by half a cycle. */
export const diodePoles = [1, 3, 5, 7].map((j) => Math.SQRT2 * (1 - cosTurns(j / 16)));

/**
 * Ladder of four coupled stages, H = 1/T4(1 + s/(sqrt(2) wc)) with the Chebyshev polynomial T4: real poles, here one
 * behind the other. Its phase turns by half a cycle at the cutoff, where H is -1/17. What comes in overloads to one side
 * first; the loop itself saturates evenly, so that the whistle stays in tune.
 */
export function diode(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const cutoff = new CutoffFollower(context, 'g');
  const resonance = context.number('resonance');
  const { random } = context;
  const [r1, r2, r3, r4] = diodePoles as [number, number, number, number];
  const S = new Float64Array(4);
  const rest = BIAS / Math.sqrt(1 + BIAS * BIAS);
  // Slope 1 where the signal is small.
  const steep = DIODE_VOLTS * (1 + BIAS * BIAS) * Math.sqrt(1 + BIAS * BIAS);
  return {
    state: { S, random: random.state },
    process(from, to) {
      cutoff.fill(from, to);
      const gains = cutoff.values;
      const k0 = diodeLoopGain(resonance.was);
      const kSlope = (diodeLoopGain(resonance.value) - k0) / 64;
      const hiss =
        k0 >= DIODE_WHISTLE || diodeLoopGain(resonance.value) >= DIODE_WHISTLE ? HISS : 0;
      let s1 = S[0]!;
      let s2 = S[1]!;
      let s3 = S[2]!;
      let s4 = S[3]!;
      const clips = DIODE_CURVE[0]!;
      const cubic = DIODE_CURVE[1]!;
      const most = DIODE_CURVE[2]!;
      let last = NaN;
      let a1 = 0;
      let a2 = 0;
      let a3 = 0;
      let a4 = 0;
      for (let i = from; i < to; i++) {
        const g = gains[i]!;
        if (g !== last) {
          last = g;
          a1 = (r1 * g) / (1 + r1 * g);
          a2 = (r2 * g) / (1 + r2 * g);
          a3 = (r3 * g) / (1 + r3 * g);
          a4 = (r4 * g) / (1 + r4 * g);
        }
        const k = k0 + kSlope * i;
        let held = (1 - a1) * s1;
        held = a2 * held + (1 - a2) * s2;
        held = a3 * held + (1 - a3) * s3;
        held = a4 * held + (1 - a4) * s4;
        const w = input[i]! / DIODE_VOLTS + BIAS;
        let x = steep * (w / Math.sqrt(1 + w * w) - rest);
        if (hiss !== 0) x += hiss * (random.next() - 0.5);
        const u = (x - k * held) / (1 + k * a1 * a2 * a3 * a4);
        const q = u * u;
        const driven = q < clips ? u - u * q * cubic : u > 0 ? most : -most;
        const y1 = s1 + a1 * (driven - s1);
        const y2 = s2 + a2 * (y1 - s2);
        const y3 = s3 + a3 * (y2 - s3);
        const y4 = s4 + a4 * (y3 - s4);
        s1 = 2 * y1 - s1;
        s2 = 2 * y2 - s2;
        s3 = 2 * y3 - s3;
        s4 = 2 * y4 - s4;
        out[i] = y4 > 20 ? 20 : y4 < -20 ? -20 : y4;
      }
      S[0] = tiny(s1);
      S[1] = tiny(s2);
      S[2] = tiny(s3);
      S[3] = tiny(s4);
    },
  };
}

/** Damping of the three-pole filter's resonant pair: 1, a Butterworth, with no resonance; below 0 it whistles. */
export const threePoleDamping = (resonance: number): number => 1 - 1.1 * resonance;

/** How much a swing of 5 V in the resonant pair damps it: full resonance whistles at 5 V. */
const RESTRAINT = 0.1;

/** Three-pole low-pass: one pole, then a resonant pair whose damping grows with its level. */
export function lowPass18(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const cutoff = new CutoffFollower(context, 'g');
  const resonance = context.number('resonance');
  const { random } = context;
  const S = new Float64Array(3);
  return {
    state: { S, random: random.state },
    process(from, to) {
      cutoff.fill(from, to);
      const gains = cutoff.values;
      const k0 = threePoleDamping(resonance.was);
      const kSlope = -1.1 * resonance.slope;
      const hiss = k0 < 0 || threePoleDamping(resonance.value) < 0 ? HISS : 0;
      let s0 = S[0]!;
      let s1 = S[1]!;
      let s2 = S[2]!;
      for (let i = from; i < to; i++) {
        const g = gains[i]!;
        let x = input[i]!;
        if (hiss !== 0) x += hiss * (random.next() - 0.5);
        const y = s0 + (g / (1 + g)) * (x - s0);
        s0 = 2 * y - s0;
        // A whistle is a rotation of the two states: their square sum stands still, and bends no pitch.
        const k = k0 + kSlope * i + (RESTRAINT / 25) * (s1 * s1 + s2 * s2);
        const high = (y - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        const low = g * band + s2;
        s1 = g * high + band;
        s2 = g * band + low;
        out[i] = low > 20 ? 20 : low < -20 ? -20 : low;
      }
      S[0] = tiny(s0);
      S[1] = tiny(s1);
      S[2] = tiny(s2);
    },
  };
}
