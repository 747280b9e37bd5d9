import { type Kernel, type KernelContext, tiny } from '../kernel';
import { log2, exp2, tanTurns } from '../portable';
import type { Param } from '../param';
import { CutoffFollower } from './cutoff';

const ROOT2 = 1.4142135623730951;
const STEEP = log2(0.04 / ROOT2);

/** Damping 1/Q of the two-pole filters: Q 0.7071 with no resonance, 25 at full. */
export const twoPoleDamping = (resonance: number): number => ROOT2 * exp2(STEEP * resonance);

/** Damping over a block: recomputed while the resonance is turned. */
class Damping {
  value: number;
  private last = NaN;
  constructor(private readonly resonance: Param) {
    this.value = twoPoleDamping(resonance.value);
  }
  update(): number {
    if (this.resonance.value !== this.last) {
      this.last = this.resonance.value;
      this.value = twoPoleDamping(this.last);
    }
    return this.value;
  }
}

/**
 * Two-pole state variable low-pass, trapezoidal integration with the feedback solved in the same sample.
 * Source: V. Zavalishin, The Art of VA Filter Design (2018), chapter 4.
 */
export function lowPass12(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const cutoff = new CutoffFollower(context, 'g');
  const damping = new Damping(context.number('resonance'));
  const S = new Float64Array(2);
  return {
    state: { S },
    process(from, to) {
      cutoff.fill(from, to);
      const gains = cutoff.values;
      const k = damping.update();
      let s1 = S[0]!;
      let s2 = S[1]!;
      for (let i = from; i < to; i++) {
        const g = gains[i]!;
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        const low = g * band + s2;
        s1 = g * high + band;
        s2 = g * band + low;
        out[i] = low > 20 ? 20 : low < -20 ? -20 : low;
      }
      S[0] = tiny(s1);
      S[1] = tiny(s2);
    },
  };
}

type Mode = 'low' | 'band' | 'high' | 'notch' | 'morph';

/** Weights of high, band and low that make a mode; band is taken times the damping, so that it peaks at 1. */
function weigh(mode: Mode, morph: number, into: Float64Array): void {
  into.fill(0);
  if (mode === 'high' || mode === 'notch') into[0] = 1;
  if (mode === 'band') into[1] = 1;
  if (mode === 'low' || mode === 'notch') into[2] = 1;
  if (mode !== 'morph') return;
  const at = morph < 0 ? 0 : morph > 1 ? 1 : morph;
  into[0] = at > 0.5 ? 2 * at - 1 : 0;
  into[1] = at > 0.5 ? 2 - 2 * at : 2 * at;
  into[2] = at < 0.5 ? 1 - 2 * at : 0;
}

/** Two-pole state variable filter of every kind. */
export function stateVariable(context: KernelContext): Kernel {
  const input = context.input('in');
  const morphIn = context.input('morph');
  const out = context.output('out');
  const mode = context.choice('mode') as Mode;
  const morph = context.number('morph');
  const cutoff = new CutoffFollower(context, 'g');
  const damping = new Damping(context.number('resonance'));
  const S = new Float64Array(2);
  const W = new Float64Array(3);
  weigh(mode, morph.value, W);
  return {
    state: { S },
    process(from, to) {
      cutoff.fill(from, to);
      const gains = cutoff.values;
      const k = damping.update();
      let s1 = S[0]!;
      let s2 = S[1]!;
      for (let i = from; i < to; i++) {
        if (mode === 'morph') weigh(mode, morph.was + morph.slope * i + morphIn[i]! / 5, W);
        const g = gains[i]!;
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        const low = g * band + s2;
        s1 = g * high + band;
        s2 = g * band + low;
        const volts = W[0]! * high + W[1]! * k * band + W[2]! * low;
        out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
      S[0] = tiny(s1);
      S[1] = tiny(s2);
    },
  };
}

/** Two of them, one behind the other or side by side. */
export function filterPair(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const series = context.choice('routing') === 'series';
  const first = new CutoffFollower(context, 'g', 'cutoff1');
  const second = new CutoffFollower(context, 'g', 'cutoff2', false);
  const dampings = [1, 2].map((n) => new Damping(context.number(`resonance${n}`)));
  const S = new Float64Array(4);
  const WA = new Float64Array(3);
  const WB = new Float64Array(3);
  weigh(context.choice('mode1') as Mode, 0, WA);
  weigh(context.choice('mode2') as Mode, 0, WB);
  const one = (x: number, g: number, k: number, W: Float64Array, at: number): number => {
    const s1 = S[at]!;
    const s2 = S[at + 1]!;
    const high = (x - (k + g) * s1 - s2) / (1 + g * (k + g));
    const band = g * high + s1;
    const low = g * band + s2;
    S[at] = g * high + band;
    S[at + 1] = g * band + low;
    return W[0]! * high + W[1]! * k * band + W[2]! * low;
  };
  return {
    state: { S },
    process(from, to) {
      first.fill(from, to);
      second.fill(from, to);
      const a = first.values;
      const b = second.values;
      const ka = dampings[0]!.update();
      const kb = dampings[1]!.update();
      for (let i = from; i < to; i++) {
        const x = input[i]!;
        const y = one(x, a[i]!, ka, WA, 0);
        const z = one(series ? y : x, b[i]!, kb, WB, 2);
        const volts = series ? z : (y + z) / 2;
        out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
    },
  };
}

/** Two-pole high-pass, Q 0.7071. */
export function highPass12(context: KernelContext): Kernel {
  const input = context.input('in');
  const out = context.output('out');
  const cutoff = context.number('cutoff');
  const S = new Float64Array(2);
  let last = NaN;
  let g = 0;
  return {
    state: { S },
    process(from, to) {
      if (cutoff.value !== last) {
        last = cutoff.value;
        g = tanTurns(Math.min(last / context.sampleRate, 0.45) / 2);
      }
      const k = ROOT2;
      let s1 = S[0]!;
      let s2 = S[1]!;
      for (let i = from; i < to; i++) {
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        s1 = g * high + band;
        s2 = 2 * g * band + s2;
        out[i] = high > 20 ? 20 : high < -20 ? -20 : high;
      }
      S[0] = tiny(s1);
      S[1] = tiny(s2);
    },
  };
}
