import { kernelOf, type KernelContext, tiny } from '../kernel';
import { tanTurns } from '../../theory/portable';
import { Derived } from './envelope';
import { creep, lineLength } from './delay-line';
import { Stereo } from './stereo';

const LONGEST_SECONDS = 5;
/** Level in V towards which the loop is held, squared. */
const LIMIT = 1 / (12 * 12);

/** Gain of a one-pole step at a corner in Hz. */
export const poleGain = (hz: number, sampleRate: number): number => {
  const share = hz / sampleRate;
  const g = tanTurns((share < 0.45 ? share : 0.45) / 2);
  return g / (1 + g);
};

function makeDelay(context: KernelContext) {
  const { sampleRate, transport } = context;
  const tied = context.choice('clock') === 'tempo';
  const crossed = context.choice('routing') === 'ping-pong';
  const times = ['left', 'right'].map((side) =>
    context.number(tied ? `beats-${side}` : `time-${side}`),
  );
  const feedback = context.number('feedback');
  const lows = new Derived(context.number('low-cut'), (hz) => poleGain(hz, sampleRate));
  const highs = new Derived(context.number('high-cut'), (hz) => poleGain(hz, sampleRate));
  const stereo = new Stereo(context);
  const length = lineLength(LONGEST_SECONDS * sampleRate);
  const mask = length - 1;
  const lines = [new Float64Array(length), new Float64Array(length)] as const;
  /** Sample number, delays in samples as they are, low-pass and high-pass of each side. */
  const S = new Float64Array(7);
  S[1] = S[2] = -1;
  const goals = new Float64Array(2);
  const read = new Float64Array(2);
  /** Gains of the low cut and the high cut. */
  const K = new Float64Array(2);
  return {
    state: { S, left: lines[0], right: lines[1] },
    sampleRate,
    transport,
    tied,
    crossed,
    times,
    feedback,
    lows,
    highs,
    stereo,
    mask,
    lines,
    S,
    goals,
    read,
    K,
  };
}
type Delay = ReturnType<typeof makeDelay>;

/** What the controls ask for now. */
function update({ sampleRate, transport, tied, times, lows, highs, S, goals, K }: Delay): void {
  for (let side = 0; side < 2; side++) {
    const t = times[side]!.value;
    const seconds = tied ? (t * 60) / transport.tempo : t;
    goals[side] = Math.max(2, Math.min(LONGEST_SECONDS, seconds) * sampleRate);
    if (S[1 + side]! < 0) S[1 + side] = goals[side]!;
  }
  K[0] = lows.update();
  K[1] = highs.update();
}

/** Two delays with filters and a limiter in their loops. */
export const delay = kernelOf(makeDelay, (parts, from, to) => {
  const { crossed, feedback, stereo, mask, lines, S, goals, read, K } = parts;
  if (from === 0) update(parts);
  stereo.read(from, to);
  const [a, b] = lines;
  const { dryLeft, dryRight, wetLeft, wetRight } = stereo;
  let now = S[0]! | 0;
  let l1 = S[3]!;
  let r1 = S[4]!;
  let l2 = S[5]!;
  let r2 = S[6]!;
  const kLow = K[0]!;
  const kHigh = K[1]!;
  const moving = S[1] !== goals[0] || S[2] !== goals[1];
  for (let i = from; i < to; i++) {
    now = (now + 1) | 0;
    if (moving) {
      S[1] = creep(S[1]!, goals[0]!);
      S[2] = creep(S[2]!, goals[1]!);
    }
    for (let side = 0; side < 2; side++) {
      const line = side === 0 ? a : b;
      const late = S[1 + side]!;
      const whole = late | 0;
      const t = late - whole;
      const at = now - whole;
      const q = line[at & mask]!;
      if (t === 0) read[side] = q;
      else {
        const p = line[(at + 1) & mask]!;
        const r = line[(at - 1) & mask]!;
        const s = line[(at - 2) & mask]!;
        read[side] =
          q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)));
      }
    }
    const back = (feedback.was + feedback.slope * i) * 0.01;
    let x = l1 + kHigh * (read[0]! - l1);
    l1 = 2 * x - l1;
    let y = l2 + kLow * (x - l2);
    l2 = 2 * y - l2;
    const fromLeft = back * (x - y);
    x = r1 + kHigh * (read[1]! - r1);
    r1 = 2 * x - r1;
    y = r2 + kLow * (x - r2);
    r2 = 2 * y - r2;
    const fromRight = back * (x - y);
    const intoLeft = crossed
      ? 0.5 * (dryLeft[i]! + dryRight[i]!) + fromRight
      : dryLeft[i]! + fromLeft;
    const intoRight = crossed ? read[0]! : dryRight[i]! + fromRight;
    const kept = intoLeft / Math.sqrt(1 + intoLeft * intoLeft * LIMIT);
    const other = intoRight / Math.sqrt(1 + intoRight * intoRight * LIMIT);
    a[now & mask] = kept > 1e-30 || kept < -1e-30 ? kept : 0;
    b[now & mask] = other > 1e-30 || other < -1e-30 ? other : 0;
    wetLeft[i] = read[0]!;
    wetRight[i] = read[1]!;
  }
  S[0] = now;
  S[3] = tiny(l1);
  S[4] = tiny(r1);
  S[5] = tiny(l2);
  S[6] = tiny(r2);
  stereo.write(from, to);
});
