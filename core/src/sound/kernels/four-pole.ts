import { BLOCK, kernelOf, tiny } from '../kernel';
import { TwiceRate } from '../halfband';
import { CutoffFollower } from './cutoff';
import { ladder, LADDER_WHISTLE, ladderLoopGain } from '../../theory/prototypes';
import { Ask, WarpCompensator } from './warp-compensator';

/** What goes into the first pole saturates at 7 V along u - 4u^3/27, up to one and a half of it. */
const VOLTS = 7;
const CUBIC = 4 / (27 * VOLTS * VOLTS);
const CLIPS = 2.25 * VOLTS * VOLTS;
const HISS = 1e-5;

/** Weights of what goes in and of the four poles: powers of p = 1/(s + 1) and of 1 - p = s/(s + 1). */
const TAPS: Record<string, readonly number[]> = {
  'low-24': [0, 0, 0, 0, 1],
  'low-12': [0, 0, 1, 0, 0],
  'band-24': [0, 0, 4, -8, 4],
  'band-12': [0, 2, -2, 0, 0],
  'high-24': [1, -4, 6, -4, 1],
  'high-12': [1, -2, 1, 0, 0],
};

/** A ladder whose poles are mixed. */
export const fourPole = kernelOf(
  (context) => {
    const compensator = new WarpCompensator(ladder);
    const S = new Float64Array(4);
    const twice = new TwiceRate();
    return {
      state: { S, twice: twice.state, random: context.random.state },
      input: context.input('in'),
      out: context.output('out'),
      cutoff: new CutoffFollower(context, 'pole', compensator, 'cutoff', true, 2),
      compensator,
      resonance: context.number('resonance'),
      random: context.random,
      taps: Float64Array.from(TAPS[context.choice('mode')]!),
      S,
      twice,
    };
  },
  ({ input, out, cutoff, compensator, resonance, random, taps, S, twice }, from, to) => {
    // Bands and highs have no place for what compensates a low-pass.
    compensator.ask[Ask.damping] = ladder.free;
    cutoff.fill(from, to);
    const poles = cutoff.values;
    const k0 = ladderLoopGain(resonance.was);
    const k1 = ladderLoopGain(resonance.value);
    const slope = (k1 - k0) / BLOCK;
    const hiss = k0 >= LADDER_WHISTLE || k1 >= LADDER_WHISTLE ? HISS : 0;
    twice.up(input, from, to);
    const { samples } = twice;
    const [c0, c1, c2, c3, c4] = taps as unknown as [number, number, number, number, number];
    let s1 = S[0]!;
    let s2 = S[1]!;
    let s3 = S[2]!;
    let s4 = S[3]!;
    for (let i = from; i < to; i++) {
      const a = poles[i]!;
      const b = 1 - a;
      const a2 = a * a;
      const k = k0 + slope * i;
      const open = 1 / (1 + k * a2 * a2);
      for (let at = 2 * i; at < 2 * i + 2; at++) {
        let x = samples[at]!;
        if (hiss !== 0) x += hiss * (random.next() - 0.5);
        const held = b * (s4 + a * (s3 + a * (s2 + a * s1)));
        const u = (x - k * held) * open;
        const q = u * u;
        const driven = q < CLIPS ? u - q * (u * CUBIC) : u > 0 ? VOLTS : -VOLTS;
        const y1 = s1 + a * (driven - s1);
        const y2 = s2 + a * (y1 - s2);
        const y3 = s3 + a * (y2 - s3);
        const y4 = s4 + a * (y3 - s4);
        s1 = 2 * y1 - s1;
        s2 = 2 * y2 - s2;
        s3 = 2 * y3 - s3;
        s4 = 2 * y4 - s4;
        const volts = c0 * driven + c1 * y1 + c2 * y2 + c3 * y3 + c4 * y4;
        samples[at] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
      }
    }
    twice.down(out, from, to);
    S[0] = tiny(s1);
    S[1] = tiny(s2);
    S[2] = tiny(s3);
    S[3] = tiny(s4);
  },
);
