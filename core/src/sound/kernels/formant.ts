import { VOWELS } from '../../catalogue/tone';
import { exp2, fromDecibelsPortable, log2, tanTurns } from '../../theory/portable';
import { kernelOf, tiny } from '../kernel';

/** Widths of the three bands in Hz. */
const WIDE = [60, 90, 120];
const OCTAVES = VOWELS.map(({ hz }) => hz.map(log2));

/** Three bands where a mouth has them. */
export const formant = kernelOf(
  (context) => ({
    // For each band two states; then gain of its step, level, as they are.
    state: { S: new Float64Array(6), G: new Float64Array(6).fill(NaN) },
    /** Gain of the step, damping and level of each band at the end of the block. */
    goals: new Float64Array(9),
    known: new Float64Array(3).fill(NaN),
    sampleRate: context.sampleRate,
    input: context.input('in'),
    out: context.output('out'),
    vowel: context.number('vowel'),
    shift: context.number('shift'),
    sharpness: context.number('sharpness'),
    mix: context.number('mix'),
  }),
  ({ state, goals, known, sampleRate, input, out, vowel, shift, sharpness, mix }, from, to) => {
    const { S, G } = state;
    if (vowel.value !== known[0] || shift.value !== known[1] || sharpness.value !== known[2]) {
      known[0] = vowel.value;
      known[1] = shift.value;
      known[2] = sharpness.value;
      const at = Math.min(VOWELS.length - 1.000001, Math.max(0, vowel.value));
      const left = Math.floor(at);
      const share = at - left;
      for (let b = 0; b < 3; b++) {
        const [low, high] = [OCTAVES[left]![b]!, OCTAVES[left + 1]![b]!];
        const own = exp2(low + share * (high - low));
        const hz = own * exp2(shift.value / 12);
        const db = VOWELS[left]!.db[b]! + share * (VOWELS[left + 1]!.db[b]! - VOWELS[left]!.db[b]!);
        goals[b] = tanTurns(Math.min(0.45, hz / sampleRate) / 2);
        goals[3 + b] = WIDE[b]! / (sharpness.value * own);
        goals[6 + b] = fromDecibelsPortable(db);
      }
    }
    const n = to - from;
    for (let b = 0; b < 3; b++) {
      const first = Number.isNaN(G[b]!);
      const g0 = first ? goals[b]! : G[b]!;
      const a0 = first ? goals[6 + b]! : G[3 + b]!;
      const gSlope = (goals[b]! - g0) / n;
      const aSlope = (goals[6 + b]! - a0) / n;
      const k = goals[3 + b]!;
      let s1 = S[2 * b]!;
      let s2 = S[2 * b + 1]!;
      for (let i = from; i < to; i++) {
        const g = g0 + gSlope * (i - from);
        const high = (input[i]! - (k + g) * s1 - s2) / (1 + g * (k + g));
        const band = g * high + s1;
        s1 = g * high + band;
        s2 += 2 * g * band;
        const heard = (a0 + aSlope * (i - from)) * k * band;
        out[i] = b === 0 ? heard : out[i]! + heard;
      }
      S[2 * b] = tiny(s1);
      S[2 * b + 1] = tiny(s2);
      G[b] = goals[b]!;
      G[3 + b] = goals[6 + b]!;
    }
    for (let i = from; i < to; i++) {
      const m = (mix.was + mix.slope * i) * 0.01;
      const y = input[i]! + m * (out[i]! - input[i]!);
      out[i] = y > 20 ? 20 : y < -20 ? -20 : y;
    }
  },
);
