import { kernelOf, BLOCK, type KernelContext, tiny } from '../kernel';
import { tanTurns } from '../../theory/portable';
import type { Param } from '../param';
import { CutoffFollower } from './cutoff';
import { twoPole, twoPoleDamping } from '../../theory/prototypes';
import { Ask, WarpCompensator } from './warp-compensator';

/** Damping that a resonance control asks for: recomputed while it is turned. */
class Damping {
  private readonly D = Float64Array.of(NaN, NaN);
  constructor(private readonly resonance: Param) {}

  get value(): number {
    const { D, resonance } = this;
    if (resonance.value !== D[0]) {
      D[0] = resonance.value;
      D[1] = twoPoleDamping(resonance.value);
    }
    return D[1]!;
  }
}

/**
 * Two-pole state variable low-pass, trapezoidal integration with the feedback solved in the same sample.
 * Source: V. Zavalishin, The Art of VA Filter Design (2018), chapter 4.
 */
export const lowPass12 = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const compensator = new WarpCompensator(twoPole);
    const cutoff = new CutoffFollower(context, 'g', compensator);
    const damping = new Damping(context.number('resonance'));
    const S = new Float64Array(3);
    return { state: { S }, input, out, compensator, cutoff, damping, S };
  },
  ({ input, out, compensator, cutoff, damping, S }, from, to) => {
    compensator.ask[Ask.damping] = damping.value;
    cutoff.fill(from, to);
    const gains = cutoff.values;
    const k0 = compensator.dampingWas;
    const kSlope = (compensator.damping - k0) / BLOCK;
    const past0 = compensator.pastWas;
    const pastSlope = compensator.pastSlope;
    let s1 = S[0]!;
    let s2 = S[1]!;
    let before = S[2]!;
    for (let i = from; i < to; i++) {
      const g = gains[i]!;
      const k = k0 + kSlope * i;
      const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
      const band = g * high + s1;
      const low = g * band + s2;
      s1 = g * high + band;
      s2 = g * band + low;
      const volts = low + (past0 + pastSlope * i) * (before - low);
      before = low;
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
    S[0] = tiny(s1);
    S[1] = tiny(s2);
    S[2] = tiny(before);
  },
);

type Mode = 'low' | 'band' | 'high' | 'notch' | 'morph';

/** Weights of high, band and low that make a mode; band is taken times the damping, so that it peaks at 1. */
function weigh(mode: Mode, morph: number, into: Float64Array): void {
  into.fill(0);
  if (mode === 'high' || mode === 'notch') into[0] = 1;
  if (mode === 'band') into[1] = 1;
  if (mode === 'low' || mode === 'notch') into[2] = 1;
  if (mode !== 'morph') return;
  into[0] = morph > 0.5 ? 2 * morph - 1 : 0;
  into[1] = morph > 0.5 ? 2 - 2 * morph : 2 * morph;
  into[2] = morph < 0.5 ? 1 - 2 * morph : 0;
}

const within = (morph: number): number => (morph < 0 ? 0 : morph > 1 ? 1 : morph);
/** What is bent moves a band or a notch as little as the cutoff. */
const leanOf = (mode: Mode, morph: number): number =>
  mode === 'morph' ? 1 - 2 * morph : mode === 'low' ? 1 : mode === 'high' ? -1 : 0;

/** One state variable filter with its cutoff and resonance, sample by sample. */
class StateVariable {
  readonly S = new Float64Array(3);
  readonly W = new Float64Array(3);
  private readonly compensator = new WarpCompensator(twoPole);
  private readonly cutoff: CutoffFollower;
  private readonly damping: Damping;
  /** Damping, share of the sample before, gain, each as a block begins and by the sample. */
  private readonly L = new Float64Array(6);

  constructor(
    context: KernelContext,
    private readonly mode: Mode,
    which = '',
  ) {
    this.cutoff = new CutoffFollower(
      context,
      'g',
      this.compensator,
      `cutoff${which}`,
      which !== '2',
    );
    this.damping = new Damping(context.number(`resonance${which}`));
    weigh(mode, 0, this.W);
  }

  /** @param morph at the end of the stretch */
  prepare(from: number, to: number, morph = 0): void {
    const { L, compensator } = this;
    compensator.ask[Ask.damping] = this.damping.value;
    compensator.ask[Ask.lean] = leanOf(this.mode, morph);
    this.cutoff.fill(from, to);
    L[0] = compensator.dampingWas;
    L[1] = (compensator.damping - L[0]) / BLOCK;
    L[2] = compensator.pastWas;
    L[3] = compensator.pastSlope;
    L[4] = compensator.gainWas;
    L[5] = compensator.gainSlope;
  }

  morph(value: number): void {
    weigh('morph', value, this.W);
  }

  /** What sample i of the prepared stretch becomes. */
  next(x: number, i: number): number {
    const { S, W, L } = this;
    const g = this.cutoff.values[i]!;
    const k = L[0]! + L[1]! * i;
    const s1 = S[0]!;
    const s2 = S[1]!;
    const high = (x - (k + g) * s1 - s2) / (1 + g * (k + g));
    const band = g * high + s1;
    const low = g * band + s2;
    S[0] = g * high + band;
    S[1] = g * band + low;
    const mixed = (L[4]! + L[5]! * i) * (W[0]! * high + W[1]! * k * band + W[2]! * low);
    const volts = mixed + (L[2]! + L[3]! * i) * (S[2]! - mixed);
    S[2] = mixed;
    return volts;
  }

  /** A prepared stretch at weights that stand still; `y` may be `x`. */
  run(x: Float64Array, y: Float64Array, from: number, to: number): void {
    const { S, W, L } = this;
    const gains = this.cutoff.values;
    const ofHigh = W[0]!;
    const ofBand = W[1]!;
    const ofLow = W[2]!;
    const k0 = L[0]!;
    const kSlope = L[1]!;
    const past0 = L[2]!;
    const pastSlope = L[3]!;
    const gain0 = L[4]!;
    const gainSlope = L[5]!;
    let s1 = S[0]!;
    let s2 = S[1]!;
    let before = S[2]!;
    for (let i = from; i < to; i++) {
      const g = gains[i]!;
      const k = k0 + kSlope * i;
      const high = (x[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
      const band = g * high + s1;
      const low = g * band + s2;
      s1 = g * high + band;
      s2 = g * band + low;
      const mixed = (gain0 + gainSlope * i) * (ofHigh * high + ofBand * k * band + ofLow * low);
      y[i] = mixed + (past0 + pastSlope * i) * (before - mixed);
      before = mixed;
    }
    S[0] = s1;
    S[1] = s2;
    S[2] = before;
  }

  rest(): void {
    for (let i = 0; i < 3; i++) this.S[i] = tiny(this.S[i]!);
  }
}

/** What a circuit on supplies of 20 V can give. */
function withinSupply(y: Float64Array, from: number, to: number): void {
  for (let i = from; i < to; i++) {
    const volts = y[i]!;
    if (volts > 20) y[i] = 20;
    else if (volts < -20) y[i] = -20;
  }
}

/** Two-pole state variable filter of every kind. */
export const stateVariable = kernelOf(
  (context) => {
    const input = context.input('in');
    const morphIn = context.input('morph');
    const out = context.output('out');
    const mode = context.choice('mode') as Mode;
    const morph = context.number('morph');
    const filter = new StateVariable(context, mode);
    return { state: { S: filter.S }, input, morphIn, out, mode, morph, filter };
  },
  ({ input, morphIn, out, mode, morph, filter }, from, to) => {
    filter.prepare(from, to, within(morph.value + morphIn[to - 1]! / 5));
    if (mode === 'morph') {
      for (let i = from; i < to; i++) {
        filter.morph(within(morph.was + morph.slope * i + morphIn[i]! / 5));
        out[i] = filter.next(input[i]!, i);
      }
    } else filter.run(input, out, from, to);
    withinSupply(out, from, to);
    filter.rest();
  },
);

/** Two of them, one behind the other or side by side. */
export const filterPair = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const series = context.choice('routing') === 'series';
    const [first, second] = ['1', '2'].map(
      (which) => new StateVariable(context, context.choice(`mode${which}`) as Mode, which),
    ) as [StateVariable, StateVariable];
    const between = new Float64Array(BLOCK);
    return {
      state: { first: first.S, second: second.S },
      input,
      out,
      between,
      series,
      first,
      second,
    };
  },
  ({ input, out, between, series, first, second }, from, to) => {
    first.prepare(from, to);
    second.prepare(from, to);
    first.run(input, between, from, to);
    second.run(series ? between : input, out, from, to);
    if (!series) for (let i = from; i < to; i++) out[i] = (between[i]! + out[i]!) / 2;
    withinSupply(out, from, to);
    first.rest();
    second.rest();
  },
);

/** Two-pole high-pass, Q 0.7071. */
export const highPass12 = kernelOf(
  (context) => ({
    state: { S: new Float64Array(2) },
    x: context.input('in'),
    y: context.output('out'),
    cutoff: context.number('cutoff'),
    /** The cutoff that is known, and its g. */
    G: Float64Array.of(NaN, 0),
    sampleRate: context.sampleRate,
  }),
  ({ state: { S }, x, y, cutoff, G, sampleRate }, from, to) => {
    if (cutoff.value !== G[0]) {
      G[0] = cutoff.value;
      G[1] = tanTurns(Math.min(cutoff.value / sampleRate, 0.45) / 2);
    }
    const g = G[1]!;
    const k = Math.SQRT2;
    let s1 = S[0]!;
    let s2 = S[1]!;
    for (let i = from; i < to; i++) {
      const high = (x[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
      const band = g * high + s1;
      s1 = g * high + band;
      s2 = 2 * g * band + s2;
      y[i] = high > 20 ? 20 : high < -20 ? -20 : high;
    }
    S[0] = tiny(s1);
    S[1] = tiny(s2);
  },
);
