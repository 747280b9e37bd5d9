import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

const LOWEST = 5;
const HIGHEST = 20000;

/**
 * Follows the cutoff: Hz at the knob, moved by an octave a volt. Returns g = tan(pi fc / fs) of each sample, the
 * pre-warped gain of a trapezoidal integrator, and writes the cutoff reached to the `hz` reading.
 */
function cutoffFollower(context: KernelContext): (i: number) => number {
  const floor = numberOf(context, 'cutoff');
  const volts = context.input('cutoff');
  const reading = context.output('hz');
  const top = Math.min(HIGHEST, 0.45 * context.sampleRate);
  let lastVolts = NaN;
  let hz = floor;
  let g = 0;
  return (i) => {
    if (volts[i] !== lastVolts) {
      lastVolts = volts[i]!;
      hz = Math.min(top, Math.max(LOWEST, floor * Math.exp(Math.LN2 * lastVolts)));
      g = Math.tan((Math.PI * hz) / context.sampleRate);
    }
    reading[i] = hz;
    return g;
  };
}

/** Damping 1/Q of the two-pole filter: Q 0.7071 with no resonance, 25 at full. */
export const twoPoleDamping = (resonance: number): number =>
  Math.SQRT2 * (0.04 / Math.SQRT2) ** resonance;

/**
 * Two-pole state variable low-pass, trapezoidal integration with the feedback solved in the same sample.
 * Source: V. Zavalishin, The Art of VA Filter Design (2018), chapter 4.
 */
export function lowPass12(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const gain = cutoffFollower(context);
  const k = twoPoleDamping(numberOf(context, 'resonance'));
  let s1 = 0;
  let s2 = 0;
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const g = gain(i);
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        const low = g * band + s2;
        s1 = g * high + band;
        s2 = g * band + low;
        out[i] = low;
      }
    },
  };
}

/** Loop gain of the ladder: 4 whistles. */
export const ladderLoopGain = (resonance: number): number => 4.4 * resonance;

/** Level in V at which the ladder's input stage saturates. */
const SATURATION = 7;
/** Level of the circuit's own noise in V, from which a whistle starts. */
const HISS = 1e-5;

/**
 * Four-pole ladder low-pass with a saturating input stage. Loop and saturation are solved together in each sample by
 * Newton's method, so that neither the corner nor the pitch of the whistle is bent by a delay in the loop. The passband
 * falls by 1/(1+k) as the loop gain k rises.
 * Source: V. Zavalishin, The Art of VA Filter Design (2018), chapters 5 and 6.
 */
export function lowPass24(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const gain = cutoffFollower(context);
  const k = ladderLoopGain(numberOf(context, 'resonance'));
  let s1 = 0;
  let s2 = 0;
  let s3 = 0;
  let s4 = 0;
  let u = 0;
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const g = gain(i);
        const a = g / (1 + g);
        const b = 1 / (1 + g);
        const a4 = a * a * a * a;
        const held = b * (a * a * a * s1 + a * a * s2 + a * s3 + s4);
        const x = input[i]! + HISS * (context.random() - 0.5);
        // Solve u = x - k (a4 sat(u) + held).
        for (let round = 0; round < 8; round++) {
          const w = u / SATURATION;
          const root = Math.sqrt(1 + w * w);
          const error = u - x + k * ((a4 * u) / root + held);
          const move = error / (1 + (k * a4) / (root * root * root));
          u -= move;
          if (move < 1e-6 && move > -1e-6) break;
        }
        const w = u / SATURATION;
        const driven = u / Math.sqrt(1 + w * w);
        const y1 = a * driven + b * s1;
        const y2 = a * y1 + b * s2;
        const y3 = a * y2 + b * s3;
        const y4 = a * y3 + b * s4;
        s1 = 2 * y1 - s1;
        s2 = 2 * y2 - s2;
        s3 = 2 * y3 - s3;
        s4 = 2 * y4 - s4;
        out[i] = y4;
      }
    },
  };
}

/** Two-pole high-pass, Q 0.7071, by the same structure as the two-pole low-pass. */
export function highPass12(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const fc = Math.min(numberOf(context, 'cutoff'), 0.45 * context.sampleRate);
  const g = Math.tan((Math.PI * fc) / context.sampleRate);
  const k = Math.SQRT2;
  let s1 = 0;
  let s2 = 0;
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        s1 = g * high + band;
        s2 = 2 * g * band + s2;
        out[i] = high;
      }
    },
  };
}
