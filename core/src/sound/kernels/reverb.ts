import { kernelOf, type KernelContext, tiny } from '../kernel';
import type { Param } from '../param';
import { exp2 } from '../../theory/portable';
import { poleGain } from './delay';
import { Derived } from './envelope';
import { creep, lineLength } from './delay-line';
import { Stereo } from './stereo';

/** Lengths of the eight delays in ms at size 1: no common measure. */
const MS = [29.17, 34.63, 40.81, 47.27, 53.93, 61.07, 69.31, 78.89];
const LINES = 8;
const LARGEST = 1.5;
/** log2 of 0.001: 60 dB. */
const SIXTY = -9.965784284662087;
const PRE_SECONDS = 0.5;
/** Samples that are read from all lines before any is written: fewer than the shortest line is long. */
const RUN = 32;
/** What an orthogonal matrix of ones of order eight has to be divided by. */
const NORM = 0.35355339059327373;

function makeReverb(context: KernelContext) {
  const { sampleRate } = context;
  const [pre, decay, size] = ['pre-delay', 'decay', 'size'].map((p) => context.number(p)) as [
    Param,
    Param,
    Param,
  ];
  const [lows, highs, damps] = ['low-cut', 'high-cut', 'damping'].map(
    (p) => new Derived(context.number(p), (hz) => poleGain(hz, sampleRate)),
  ) as [Derived, Derived, Derived];
  const stereo = new Stereo(context);
  const length = lineLength((MS[LINES - 1]! / 1000) * LARGEST * sampleRate);
  const mask = length - 1;
  /** All eight, one behind the other. */
  const field = new Float64Array(LINES * length);
  const beforeMask = lineLength(PRE_SECONDS * sampleRate) - 1;
  const before = new Float64Array(beforeMask + 1);
  /** Sample number, pre-delay as it is, low and high cut; then the lengths in samples as they are. */
  const S = new Float64Array(4 + LINES);
  S[1] = -1;
  const goals = new Float64Array(LINES);
  const gains = new Float64Array(LINES);
  const damped = new Float64Array(LINES);
  /** What comes out of the lines in a run, one line behind the other, and what goes into them. */
  const y = new Float64Array(LINES * RUN);
  const x = new Float64Array(RUN);
  /** Size and decay that lengths and gains were made for. */
  const known = new Float64Array(2);
  /** Gains of the low cut, the high cut and the damping. */
  const K = new Float64Array(3);
  return {
    state: { S, field, before, damped },
    sampleRate,
    pre,
    decay,
    size,
    lows,
    highs,
    damps,
    stereo,
    length,
    mask,
    field,
    beforeMask,
    before,
    S,
    goals,
    gains,
    damped,
    y,
    x,
    known,
    K,
  };
}
type Reverb = ReturnType<typeof makeReverb>;

/** What the controls ask for now. */
function update({
  sampleRate,
  pre,
  decay,
  size,
  lows,
  highs,
  damps,
  S,
  goals,
  gains,
  known,
  K,
}: Reverb): void {
  const first = S[1]! < 0;
  if (first) S[1] = Math.round(pre.value * sampleRate);
  K[0] = lows.update();
  K[1] = highs.update();
  K[2] = damps.update();
  if (size.value === known[0] && decay.value === known[1]) return;
  known[0] = size.value;
  known[1] = decay.value;
  for (let k = 0; k < LINES; k++) {
    // Whole samples, so that a field at rest is read without a filter.
    goals[k] = Math.round((MS[k]! / 1000) * size.value * sampleRate);
    if (first) S[4 + k] = goals[k]!;
    gains[k] = exp2((SIXTY * (goals[k]! / sampleRate)) / decay.value);
  }
}

/** Late field: eight delays fed back through an orthogonal matrix. */
export const reverb = kernelOf(makeReverb, (parts, from, to) => {
  const {
    sampleRate,
    pre,
    stereo,
    length,
    mask,
    field,
    beforeMask,
    before,
    S,
    goals,
    gains,
    damped,
    y,
    x,
    K,
  } = parts;
  if (from === 0) update(parts);
  stereo.read(from, to);
  const { dryLeft, dryRight, wetLeft, wetRight } = stereo;
  const ring = field;
  const line = before;
  const preGoal = Math.round(pre.value * sampleRate);
  let now = S[0]! | 0;
  let over = S[2]!;
  let under = S[3]!;
  const low = K[0]!;
  const high = K[1]!;
  const kDamp = K[2]!;
  for (let begin = from; begin < to; begin += RUN) {
    const n = begin + RUN < to ? RUN : to - begin;
    for (let j = 0; j < n; j++) {
      const at = (now + j + 1) | 0;
      const into = 0.5 * (dryLeft[begin + j]! + dryRight[begin + j]!);
      const u = under + high * (into - under);
      under = 2 * u - under;
      const o = over + low * (u - over);
      over = 2 * o - over;
      line[at & beforeMask] = u - o;
      if (S[1] !== preGoal) S[1] = creep(S[1]!, preGoal);
      const late = S[1]! | 0;
      const share = S[1]! - late;
      const p = line[(at - late) & beforeMask]!;
      x[j] = 0.5 * (p + share * (line[(at - late - 1) & beforeMask]! - p));
    }
    for (let k = 0; k < LINES; k++) {
      const start = k * length;
      const goal = goals[k]!;
      const gain = gains[k]!;
      let taps = S[4 + k]!;
      let before = damped[k]!;
      const first = k * RUN;
      for (let j = 0; j < n; j++) {
        if (taps !== goal) taps = creep(taps, goal);
        const whole = taps | 0;
        const t = taps - whole;
        const at = now + j + 1 - whole;
        let out = ring[start + (at & mask)]!;
        if (t !== 0) out += t * (ring[start + ((at - 1) & mask)]! - out);
        const d = before + kDamp * (gain * out - before);
        before = 2 * d - before;
        y[first + j] = d;
      }
      S[4 + k] = taps;
      damped[k] = before;
    }
    for (let j = 0; j < n; j++) {
      now = (now + 1) | 0;
      const y0 = y[j]!;
      const y1 = y[j + RUN]!;
      const y2 = y[j + 2 * RUN]!;
      const y3 = y[j + 3 * RUN]!;
      const y4 = y[j + 4 * RUN]!;
      const y5 = y[j + 5 * RUN]!;
      const y6 = y[j + 6 * RUN]!;
      const y7 = y[j + 7 * RUN]!;
      wetLeft[begin + j] = 0.7 * (y0 - y2 + y4 - y6);
      wetRight[begin + j] = 0.7 * (y1 - y3 + y5 - y7);
      // Hadamard matrix of order 8 in three rounds of sums and differences.
      const a0 = y0 + y1;
      const a1 = y0 - y1;
      const a2 = y2 + y3;
      const a3 = y2 - y3;
      const a4 = y4 + y5;
      const a5 = y4 - y5;
      const a6 = y6 + y7;
      const a7 = y6 - y7;
      const b0 = a0 + a2;
      const b1 = a1 + a3;
      const b2 = a0 - a2;
      const b3 = a1 - a3;
      const b4 = a4 + a6;
      const b5 = a5 + a7;
      const b6 = a4 - a6;
      const b7 = a5 - a7;
      const at = now & mask;
      const into = x[j]!;
      ring[at] = into + NORM * (b0 + b4);
      ring[at + length] = NORM * (b1 + b5) - into;
      ring[at + 2 * length] = into + NORM * (b2 + b6);
      ring[at + 3 * length] = NORM * (b3 + b7) - into;
      ring[at + 4 * length] = into + NORM * (b0 - b4);
      ring[at + 5 * length] = NORM * (b1 - b5) - into;
      ring[at + 6 * length] = into + NORM * (b2 - b6);
      ring[at + 7 * length] = NORM * (b3 - b7) - into;
    }
  }
  S[0] = now;
  S[2] = tiny(over);
  S[3] = tiny(under);
  // Where the field has died away it must not linger at the end of what numbers can hold.
  for (let k = 0; k < LINES; k++) damped[k] = tiny(damped[k]!);
  stereo.write(from, to);
});
