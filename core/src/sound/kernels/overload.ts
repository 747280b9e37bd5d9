import { BLOCK, kernelOf, tiny } from '../kernel';
import { TwiceRate } from '../halfband';
import { CutoffFollower } from './cutoff';
import { twoPole } from '../../theory/prototypes';
import { Ask, WarpCompensator } from './warp-compensator';

/** Level in V from which it overloads, one over it. */
const OVER = 1 / 5;
/** Full resonance whistles at 5 V: what it takes off the damping, over 25 V^2. */
const RESTRAINT = 0.1414213562373095 / 25;
const HISS = 1e-5;

const dampingOf = (resonance: number): number => Math.SQRT2 * (1 - 1.1 * resonance);

/** Two poles that overload before the supply ends, and whistle at a level of their own. */
export const overload12 = kernelOf(
  (context) => {
    const compensator = new WarpCompensator(twoPole);
    const mode = context.choice('mode');
    const S = new Float64Array(2);
    const twice = new TwiceRate();
    const four = new TwiceRate(2 * BLOCK);
    return {
      state: { S, twice: twice.state, four: four.state, random: context.random.state },
      input: context.input('in'),
      out: context.output('out'),
      cutoff: new CutoffFollower(context, 'g', compensator, 'cutoff', true, 4),
      compensator,
      resonance: context.number('resonance'),
      random: context.random,
      twice,
      four,
      // Weights of high, band and low; the band stands at 1 with no resonance.
      high: mode === 'high' ? 1 : 0,
      band: mode === 'band' ? Math.SQRT2 : 0,
      low: mode === 'low' ? 1 : 0,
    };
  },
  (parts, from, to) => {
    const { state, input, out, cutoff, compensator, resonance, random, twice, four } = parts;
    const { S } = state;
    // At four times the rate there is nothing to compensate for.
    compensator.ask[Ask.damping] = Math.SQRT2;
    cutoff.fill(from, to);
    const gains = cutoff.values;
    const k0 = dampingOf(resonance.was);
    const slope = (dampingOf(resonance.value) - k0) / (4 * BLOCK);
    const hiss = resonance.value > 0.9 || resonance.was > 0.9 ? HISS : 0;
    twice.up(input, from, to);
    four.up(twice.samples, 2 * from, 2 * to);
    const { samples } = four;
    let s1 = S[0]!;
    let s2 = S[1]!;
    for (let at = 4 * from; at < 4 * to; at++) {
      const g = gains[at >> 2]!;
      const u = samples[at]! * OVER;
      let x = samples[at]! / Math.sqrt(1 + u * u);
      if (hiss !== 0) x += hiss * (random.next() - 0.5);
      const k = k0 + slope * at + (RESTRAINT * (s1 * s1 + s2 * s2)) / (1 + g * g);
      const high = (x - (k + g) * s1 - s2) / (1 + g * (k + g));
      const band = g * high + s1;
      const low = g * band + s2;
      s1 = g * high + band;
      s2 = g * band + low;
      samples[at] = parts.high * high + parts.band * band + parts.low * low;
    }
    four.down(twice.samples, 2 * from, 2 * to);
    twice.down(out, from, to);
    for (let i = from; i < to; i++) {
      const volts = out[i]!;
      if (volts > 20 || volts < -20) out[i] = volts > 0 ? 20 : -20;
    }
    S[0] = tiny(s1);
    S[1] = tiny(s2);
  },
);
