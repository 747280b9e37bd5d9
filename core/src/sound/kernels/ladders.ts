import { kernelOf, BLOCK, tiny } from '../kernel';
import { TwiceRate } from '../halfband';
import { CutoffFollower } from './cutoff';
import {
  DIODE_WHISTLE,
  diodeLadder,
  diodeLoopGain,
  diodePoles,
  ladder,
  LADDER_WHISTLE,
  ladderLoopGain,
  threePole,
  threePoleDamping,
} from '../../theory/prototypes';
import { Ask, WarpCompensator } from './warp-compensator';

/** Level in V at which the ladder's input stage saturates. */
const SATURATION = 7;
/** It saturates along u - 4u^3/27 (in units of that level), up to one and a half of it. */
const CUBIC = 4 / (27 * SATURATION * SATURATION);
const CLIPS = 2.25 * SATURATION * SATURATION;
/** For twice the level. In an array, so that they are floating point numbers from the start: a mix of kinds is slow. */
const CURVE = Float64Array.of(CLIPS, 2 * CUBIC, 2 * SATURATION);
/** Level of the circuit's own noise in V, from which a whistle starts. */
const HISS = 1e-5;

/** What the ladder lets through far below its cutoff: a loop gain takes, and the bass control gives back. */
const throughOf = (gain: number, bass: number): number => (1 + (bass / 100) * gain) / (1 + gain);

/**
 * Four-pole ladder low-pass with a saturating input stage. The loop is solved as if it were linear, and what goes into
 * the first pole saturates after that: whatever the level, the loop's phase stays that of the linear circuit, so the
 * whistle stays in tune. The passband falls by 1/(1+k) as the loop gain k rises; `bass` gives it back.
 */
export const lowPass24 = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const compensator = new WarpCompensator(ladder);
    const cutoff = new CutoffFollower(context, 'pole', compensator, 'cutoff', true, 2);
    const twice = new TwiceRate();
    const resonance = context.number('resonance');
    const bass = context.number('bass');
    const { random } = context;
    const S = new Float64Array(5);
    /** What goes through where a block begins and ends. */
    const L = Float64Array.of(NaN, NaN);
    return {
      state: { S, twice: twice.state, random: random.state },
      input,
      out,
      compensator,
      cutoff,
      resonance,
      bass,
      random,
      S,
      L,
      twice,
    };
  },
  ({ input, out, compensator, cutoff, resonance, bass, random, S, L, twice }, from, to) => {
    const wanted = ladderLoopGain(resonance.value);
    compensator.ask[Ask.damping] = 1 - wanted / LADDER_WHISTLE;
    cutoff.fill(from, to);
    const poles = cutoff.values;
    const k0 = LADDER_WHISTLE * (1 - compensator.dampingWas);
    const k1 = LADDER_WHISTLE * (1 - compensator.damping);
    const kSlope = (k1 - k0) / BLOCK;
    const hiss = k0 >= LADDER_WHISTLE || k1 >= LADDER_WHISTLE ? HISS : 0;
    if (from === 0) {
      if (resonance.slope !== 0 || bass.slope !== 0 || Number.isNaN(L[1])) {
        L[0] = throughOf(ladderLoopGain(resonance.was), bass.was);
        L[1] = throughOf(wanted, bass.value);
      } else L[0] = L[1]!;
    }
    const level0 = (1 + k0) * L[0]!;
    const levelSlope = ((1 + k1) * L[1]! - level0) / BLOCK;
    const past0 = compensator.pastWas;
    const pastSlope = compensator.pastSlope;
    let s1 = S[0]!;
    let s2 = S[1]!;
    let s3 = S[2]!;
    let s4 = S[3]!;
    let before = S[4]!;
    twice.up(input, from, to);
    const { samples } = twice;
    const clips = CURVE[0]!;
    const cubic = CURVE[1]!;
    const most = CURVE[2]!;
    let k = k0 + kSlope * from;
    let level = level0 + levelSlope * from;
    let past = past0 + pastSlope * from;
    for (let i = from; i < to; i++) {
      // Pole by pole y = s + a (x - s) and then s = 2 y - s; written out so that there is little to do and that little
      // of it has to wait for the step before.
      const a = poles[i]!;
      const b = 1 - a;
      const b2 = b + b;
      const c = b2 - 1;
      const a2 = a * a;
      const a4 = a2 * a2;
      const open = 1 / (1 + k * a4);
      const back = k * open * b;
      const through = level * open;
      for (let at = 2 * i; at < 2 * i + 2; at++) {
        let fed = through * samples[at]!;
        if (hiss !== 0) fed += open * hiss * (random.next() - 0.5);
        const t2 = s2 + a * s1;
        const t3 = s3 + a * t2;
        const t4 = s4 + a * s3 + a2 * t2;
        const u = fed - back * t4;
        const q = u * u;
        const driven2 = q < clips ? u + u - q * (u * cubic) : u > 0 ? most : -most;
        const d2 = a2 * driven2;
        s1 = c * s1 + a * driven2;
        s2 = b2 * t2 - s2 + d2;
        s3 = b2 * t3 - s3 + a * d2;
        const s4Before = s4;
        s4 = b2 * t4 - s4 + a4 * driven2;
        const y4 = 0.5 * (s4Before + s4);
        const volts = y4 + past * (before - y4);
        before = y4;
        samples[at] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
      k += kSlope;
      level += levelSlope;
      past += pastSlope;
    }
    twice.down(out, from, to);
    S[0] = tiny(s1);
    S[1] = tiny(s2);
    S[2] = tiny(s3);
    S[3] = tiny(s4);
    S[4] = tiny(before);
  },
);

/** Level in V and bias of its input stage, and level at which its loop saturates. */
const DIODE_VOLTS = 5;
const BIAS = 0.4;
const DIODE_LOOP = 20;
const DIODE_CUBIC = 4 / (27 * DIODE_LOOP * DIODE_LOOP);
const DIODE_CLIPS = 2.25 * DIODE_LOOP * DIODE_LOOP;
const DIODE_CURVE = Float64Array.of(DIODE_CLIPS, DIODE_CUBIC, DIODE_LOOP);

/**
 * Ladder of four coupled stages, H = 1/T4(1 + s/(sqrt(2) wc)) with the Chebyshev polynomial T4: real poles, here one
 * behind the other. Its phase turns by half a cycle at the cutoff, where H is -1/17. What comes in overloads to one side
 * first; the loop itself saturates evenly, so that the whistle stays in tune.
 */
export const diode = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const compensator = new WarpCompensator(diodeLadder);
    const cutoff = new CutoffFollower(context, 'g', compensator, 'cutoff', true, 4);
    const twice = new TwiceRate();
    const four = new TwiceRate(2 * BLOCK);
    const resonance = context.number('resonance');
    const { random } = context;
    const [r1, r2, r3, r4] = diodePoles as [number, number, number, number];
    const S = new Float64Array(5);
    const rest = BIAS / Math.sqrt(1 + BIAS * BIAS);
    // Slope 1 where the signal is small.
    const steep = DIODE_VOLTS * (1 + BIAS * BIAS) * Math.sqrt(1 + BIAS * BIAS);
    return {
      state: { S, twice: twice.state, four: four.state, random: random.state },
      input,
      out,
      compensator,
      cutoff,
      resonance,
      random,
      r1,
      r2,
      r3,
      r4,
      S,
      rest,
      steep,
      twice,
      four,
    };
  },
  (
    {
      input,
      out,
      compensator,
      cutoff,
      resonance,
      random,
      r1,
      r2,
      r3,
      r4,
      S,
      rest,
      steep,
      twice,
      four,
    },
    from,
    to,
  ) => {
    const wanted = diodeLoopGain(resonance.value);
    compensator.ask[Ask.damping] = 1 - wanted / DIODE_WHISTLE;
    cutoff.fill(from, to);
    const gains = cutoff.values;
    const k0 = DIODE_WHISTLE * (1 - compensator.dampingWas);
    const k1 = DIODE_WHISTLE * (1 - compensator.damping);
    const kSlope = (k1 - k0) / (4 * BLOCK);
    const hiss = k0 >= DIODE_WHISTLE || k1 >= DIODE_WHISTLE ? HISS : 0;
    const level0 = (1 + k0) / (1 + diodeLoopGain(resonance.was));
    const levelSlope = ((1 + k1) / (1 + wanted) - level0) / (4 * BLOCK);
    const past0 = compensator.pastWas;
    const pastSlope = compensator.pastSlope / 2;
    let s1 = S[0]!;
    let s2 = S[1]!;
    let s3 = S[2]!;
    let s4 = S[3]!;
    let before = S[4]!;
    const clips = DIODE_CURVE[0]!;
    const cubic = DIODE_CURVE[1]!;
    const most = DIODE_CURVE[2]!;
    let last = NaN;
    let a1 = 0;
    let a2 = 0;
    let a3 = 0;
    let a4 = 0;
    twice.up(input, from, to);
    four.up(twice.samples, 2 * from, 2 * to);
    const { samples } = four;
    for (let at = 4 * from; at < 4 * to; at++) {
      const g = gains[at >> 2]!;
      if (g !== last) {
        last = g;
        a1 = (r1 * g) / (1 + r1 * g);
        a2 = (r2 * g) / (1 + r2 * g);
        a3 = (r3 * g) / (1 + r3 * g);
        a4 = (r4 * g) / (1 + r4 * g);
      }
      const k = k0 + kSlope * at;
      let held = (1 - a1) * s1;
      held = a2 * held + (1 - a2) * s2;
      held = a3 * held + (1 - a3) * s3;
      held = a4 * held + (1 - a4) * s4;
      const w = samples[at]! / DIODE_VOLTS + BIAS;
      let x = (level0 + levelSlope * at) * steep * (w / Math.sqrt(1 + w * w) - rest);
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
      const volts = y4 + (past0 + pastSlope * at) * (before - y4);
      before = y4;
      samples[at] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
    four.down(twice.samples, 2 * from, 2 * to);
    twice.down(out, from, to);
    S[0] = tiny(s1);
    S[1] = tiny(s2);
    S[2] = tiny(s3);
    S[3] = tiny(s4);
    S[4] = tiny(before);
  },
);

/** How much a swing of 5 V in the resonant pair damps it: full resonance whistles at 5 V. */
const RESTRAINT = 0.1;

/** Three-pole low-pass: one pole, then a resonant pair whose damping grows with its level. */
export const lowPass18 = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const compensator = new WarpCompensator(threePole);
    const cutoff = new CutoffFollower(context, 'g', compensator);
    const resonance = context.number('resonance');
    const { random } = context;
    const S = new Float64Array(4);
    return {
      state: { S, random: random.state },
      input,
      out,
      compensator,
      cutoff,
      resonance,
      random,
      S,
    };
  },
  ({ input, out, compensator, cutoff, resonance, random, S }, from, to) => {
    compensator.ask[Ask.damping] = threePoleDamping(resonance.value);
    cutoff.fill(from, to);
    const gains = cutoff.values;
    const k0 = compensator.dampingWas;
    const kSlope = (compensator.damping - k0) / BLOCK;
    const hiss = k0 < 0 || compensator.damping < 0 ? HISS : 0;
    const past0 = compensator.pastWas;
    const pastSlope = compensator.pastSlope;
    let s0 = S[0]!;
    let s1 = S[1]!;
    let s2 = S[2]!;
    let before = S[3]!;
    for (let i = from; i < to; i++) {
      const g = gains[i]!;
      let x = input[i]!;
      if (hiss !== 0) x += hiss * (random.next() - 0.5);
      const y = s0 + (g / (1 + g)) * (x - s0);
      s0 = 2 * y - s0;
      // A whistle is a rotation of the two states: their square sum stands still, and bends no pitch. What comes out
      // is halfway from state to state, shorter by the cosine of half the turn.
      const swing = (s1 * s1 + s2 * s2) / (1 + g * g);
      const k = k0 + kSlope * i + (RESTRAINT / 25) * swing;
      const high = (y - (k + g) * s1 - s2) / (1 + g * (k + g));
      const band = g * high + s1;
      const low = g * band + s2;
      s1 = g * high + band;
      s2 = g * band + low;
      const volts = low + (past0 + pastSlope * i) * (before - low);
      before = low;
      out[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
    S[0] = tiny(s0);
    S[1] = tiny(s1);
    S[2] = tiny(s2);
    S[3] = tiny(before);
  },
);
