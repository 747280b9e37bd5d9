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
  const y = new Float64Array(LINES);
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
  for (let i = from; i < to; i++) {
    now = (now + 1) | 0;
    const into = 0.5 * (dryLeft[i]! + dryRight[i]!);
    const u = under + high * (into - under);
    under = 2 * u - under;
    const o = over + low * (u - over);
    over = 2 * o - over;
    line[now & beforeMask] = u - o;
    if (S[1] !== preGoal) S[1] = creep(S[1]!, preGoal);
    const late = S[1]! | 0;
    const share = S[1]! - late;
    const p = line[(now - late) & beforeMask]!;
    const x = 0.5 * (p + share * (line[(now - late - 1) & beforeMask]! - p));
    for (let k = 0; k < LINES; k++) {
      if (S[4 + k] !== goals[k]) S[4 + k] = creep(S[4 + k]!, goals[k]!);
      const whole = S[4 + k]! | 0;
      const t = S[4 + k]! - whole;
      const start = k * length;
      let out = ring[start + ((now - whole) & mask)]!;
      if (t !== 0) out += t * (ring[start + ((now - whole - 1) & mask)]! - out);
      const d = damped[k]! + kDamp * (gains[k]! * out - damped[k]!);
      damped[k] = 2 * d - damped[k]!;
      y[k] = d;
    }
    // Hadamard matrix of order 8 in three rounds of sums and differences.
    const a0 = y[0]! + y[1]!;
    const a1 = y[0]! - y[1]!;
    const a2 = y[2]! + y[3]!;
    const a3 = y[2]! - y[3]!;
    const a4 = y[4]! + y[5]!;
    const a5 = y[4]! - y[5]!;
    const a6 = y[6]! + y[7]!;
    const a7 = y[6]! - y[7]!;
    wetLeft[i] = 0.7 * (y[0]! - y[2]! + y[4]! - y[6]!);
    wetRight[i] = 0.7 * (y[1]! - y[3]! + y[5]! - y[7]!);
    const b0 = a0 + a2;
    const b1 = a1 + a3;
    const b2 = a0 - a2;
    const b3 = a1 - a3;
    const b4 = a4 + a6;
    const b5 = a5 + a7;
    const b6 = a4 - a6;
    const b7 = a5 - a7;
    const at = now & mask;
    ring[at] = x + NORM * (b0 + b4);
    ring[at + length] = NORM * (b1 + b5) - x;
    ring[at + 2 * length] = x + NORM * (b2 + b6);
    ring[at + 3 * length] = NORM * (b3 + b7) - x;
    ring[at + 4 * length] = x + NORM * (b0 - b4);
    ring[at + 5 * length] = NORM * (b1 - b5) - x;
    ring[at + 6 * length] = x + NORM * (b2 - b6);
    ring[at + 7 * length] = NORM * (b3 - b7) - x;
  }
  S[0] = now;
  S[2] = tiny(over);
  S[3] = tiny(under);
  // Where the field has died away it must not linger at the end of what numbers can hold.
  for (let k = 0; k < LINES; k++) damped[k] = tiny(damped[k]!);
  stereo.write(from, to);
});
