import { cosTurns, sinTurns } from '../../theory/portable';
import { kernelOf, tiny } from '../kernel';

/**
 * Two chains of all-passes y = c (x + y before the last) - x before the last, whose outputs are a quarter of a cycle apart
 * when the first comes a sample late.
 */
const FIRST = [0.6923878, 0.9360654322959, 0.988229522686, 0.9987488452737].map((c) => c * c);
const SECOND = [0.4021921162426, 0.856171088242, 0.9722909545651, 0.9952884791278].map(
  (c) => c * c,
);

/** Of each all-pass: in and out, one and two samples ago. */
function chain(factors: readonly number[], S: Float64Array, x: number): number {
  let y = x;
  for (let s = 0; s < 4; s++) {
    const at = 4 * s;
    const out = factors[s]! * (y + S[at + 3]!) - S[at + 1]!;
    S[at + 1] = S[at]!;
    S[at] = y;
    S[at + 3] = S[at + 2]!;
    S[at + 2] = tiny(out);
    y = out;
  }
  return y;
}

const within = (volts: number): number => (volts > 20 ? 20 : volts < -20 ? -20 : volts);

/** Moves all frequencies by the same number of hertz. */
export const shifter = kernelOf(
  (context) => ({
    /** Turns, and the first chain a sample ago. */
    state: { a: new Float64Array(16), b: new Float64Array(16), S: new Float64Array(2) },
    sampleRate: context.sampleRate,
    input: context.input('in'),
    out: context.output('out'),
    up: context.output('up'),
    down: context.output('down'),
    shift: context.number('shift'),
    mix: context.number('mix'),
  }),
  ({ state, sampleRate, input, out, up, down, shift, mix }, from, to) => {
    const { a, b, S } = state;
    for (let i = from; i < to; i++) {
      const x = input[i]!;
      const late = S[1]!;
      S[1] = chain(FIRST, a, x);
      const other = chain(SECOND, b, x);
      const turns = S[0]! + (shift.was + shift.slope * i) / sampleRate;
      S[0] = turns - Math.floor(turns);
      const cos = cosTurns(S[0]);
      const sin = sinTurns(S[0]);
      const raised = within(late * cos + other * sin);
      up[i] = raised;
      down[i] = within(late * cos - other * sin);
      const m = (mix.was + mix.slope * i) * 0.01;
      out[i] = within(x + m * (raised - x));
    }
  },
);
