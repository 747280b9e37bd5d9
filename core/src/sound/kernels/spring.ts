import { exp2 } from '../../theory/portable';
import { kernelOf, type KernelContext, tiny } from '../kernel';
import { poleGain } from './delay';
import { creep, lineLength } from './delay-line';
import { Derived } from './envelope';
import { Stereo } from './stereo';

const SECONDS = [0.041, 0.047] as const;
const LONGEST = 2;
const STAGES = 40;
const A = 0.62;
/** log2 of 0.001: 60 dB. */
const SIXTY = -9.965784284662087;
/** Below it a spring carries nothing. */
const LOW_HZ = 100;

function makeSpring(context: KernelContext) {
  const { sampleRate } = context;
  /** Samples of one all-pass: its chirps end at half of 8 kHz. */
  const wide = Math.max(1, Math.round(sampleRate / 8000));
  const length = lineLength(SECONDS[1] * LONGEST * sampleRate);
  const sides = SECONDS.map((seconds) => ({
    seconds,
    line: new Float64Array(length),
    /** What each all-pass remembers, one behind the other: what went in and what came out. */
    stages: new Float64Array(2 * STAGES * wide),
    /** Length in samples as it is, low-pass, high-pass. */
    S: Float64Array.of(-1, 0, 0),
  }));
  return {
    state: Object.fromEntries(
      sides.flatMap(({ line, stages, S }, i) => [
        [`line${i}`, line],
        [`stages${i}`, stages],
        [`S${i}`, S],
      ]),
    ),
    sampleRate,
    wide,
    mask: length - 1,
    sides,
    stereo: new Stereo(context),
    decay: context.number('decay'),
    size: context.number('length'),
    damping: new Derived(context.number('damping'), (hz) => poleGain(hz, sampleRate)),
    under: poleGain(LOW_HZ, sampleRate),
    N: new Int32Array(1),
  };
}
type Spring = ReturnType<typeof makeSpring>;

function side(
  parts: Spring,
  which: 0 | 1,
  dry: Float64Array,
  wet: Float64Array,
  from: number,
  to: number,
): void {
  const { sampleRate, wide, mask, sides, decay, size, damping, under, N } = parts;
  const { seconds, line, stages, S } = sides[which]!;
  const goal = seconds * size.value * sampleRate;
  if (S[0]! < 0) S[0] = goal;
  const K = damping.value;
  // Low sounds take the chain's own time as well.
  const chain = (STAGES * wide * (1 - A)) / (1 + A);
  const g = exp2((SIXTY * (goal + chain)) / (sampleRate * decay.value));
  let low = S[1]!;
  let base = S[2]!;
  for (let i = from; i < to; i++) {
    const now = (N[0]! + 1 + i - from) | 0;
    if (S[0] !== goal) S[0] = creep(S[0]!, goal);
    const whole = S[0]! | 0;
    const t = S[0]! - whole;
    const a = line[(now - whole) & mask]!;
    let x = a + t * (line[(now - whole - 1) & mask]! - a);
    let at = now % wide;
    if (at < 0) at += wide;
    for (let s = 0; s < STAGES; s++) {
      const y = A * (x - stages[at + wide]!) + stages[at]!;
      stages[at] = x;
      stages[at + wide] = y;
      x = y;
      at += 2 * wide;
    }
    const b = base + under * (dry[i]! - base);
    base = 2 * b - base;
    const into = dry[i]! - b + g * x;
    const kept = low + K * (into - low);
    low = 2 * kept - low;
    line[now & mask] = kept > 1e-30 || kept < -1e-30 ? kept : 0;
    wet[i] = x;
  }
  S[1] = tiny(low);
  S[2] = tiny(base);
}

/** Two springs. */
export const spring = kernelOf(makeSpring, (parts, from, to) => {
  const { stereo, damping, N } = parts;
  damping.update();
  stereo.read(from, to);
  side(parts, 0, stereo.dryLeft, stereo.wetLeft, from, to);
  side(parts, 1, stereo.dryRight, stereo.wetRight, from, to);
  N[0] = (N[0]! + to - from) | 0;
  stereo.write(from, to);
});
