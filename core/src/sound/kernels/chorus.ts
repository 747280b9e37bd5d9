import { cosTurns, sinTurns, tanTurns } from '../../theory/portable';
import { exp2Quick } from '../quick';
import type { Param } from '../param';
import { kernelOf, type KernelContext, tiny } from '../kernel';
import { Stereo } from './stereo';
import { lineLength } from './delay-line';

const CENTRE_SECONDS = 0.007;
const SWING_SECONDS = 0.005;

function makeChorus(context: KernelContext) {
  const { sampleRate } = context;
  const rate = context.number('rate');
  const depth = context.number('depth');
  const stereo = new Stereo(context);
  const length = lineLength((CENTRE_SECONDS + SWING_SECONDS) * sampleRate);
  const lines = [new Float64Array(length), new Float64Array(length)] as const;
  const mask = length - 1;
  /** Phase, sample number. */
  const S = new Float64Array(2);
  const centre = CENTRE_SECONDS * sampleRate;

  return {
    state: { S, left: lines[0], right: lines[1] },
    sampleRate,
    rate,
    depth,
    stereo,
    lines,
    mask,
    centre,
    S,
  };
}
type Chorus = ReturnType<typeof makeChorus>;

/** One side: writes what came in, and reads it at two moving places. */
function chorusSide(
  { S, rate, depth, sampleRate, mask, centre }: Chorus,
  line: Float64Array,
  from: number,
  to: number,
  first: number,
  turned: number,
  dry: Float64Array,
  wet: Float64Array,
): void {
  const inc = rate.value / sampleRate;
  // The swing turns like a hand of a clock: a sine and a cosine from the last ones.
  let sine = sinTurns(S[0]!);
  let cosine = cosTurns(S[0]!);
  const turnSine = sinTurns(inc);
  const turnCosine = cosTurns(inc);
  const unit = (turned * SWING_SECONDS * sampleRate) / 100;
  for (let i = from; i < to; i++) {
    const now = (first + i - from) | 0;
    line[now & mask] = dry[i]!;
    const swing = unit * (depth.was + depth.slope * i);
    let sum = 0;
    for (let tap = 0; tap < 2; tap++) {
      const delay = centre + swing * (tap === 0 ? sine : cosine);
      const whole = delay | 0;
      const t = delay - whole;
      const at = now - whole;
      const a = line[(at + 1) & mask]!;
      const b = line[at & mask]!;
      const c = line[(at - 1) & mask]!;
      const d = line[(at - 2) & mask]!;
      sum += b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
    }
    wet[i] = sum / 2;
    const next = sine * turnCosine + cosine * turnSine;
    cosine = cosine * turnCosine - sine * turnSine;
    sine = next;
  }
}

/** Two moving delays a side, read between samples by a cubic. */
export const chorus = kernelOf(makeChorus, (parts, from, to) => {
  const { sampleRate, rate, stereo, lines, S } = parts;
  stereo.read(from, to);
  const first = (S[1]! + 1) | 0;
  chorusSide(parts, lines[0], from, to, first, 1, stereo.dryLeft, stereo.wetLeft);
  chorusSide(parts, lines[1], from, to, first, -1, stereo.dryRight, stereo.wetRight);
  const p = S[0]! + ((to - from) * rate.value) / sampleRate;
  S[0] = p - Math.floor(p);
  S[1] = (S[1]! + to - from) | 0;
  stereo.write(from, to);
});

const STAGES: Record<string, number> = { four: 4, six: 6, eight: 8 };

function makePhaser(context: KernelContext) {
  const { sampleRate } = context;
  const [rate, centre, depth, feedback] = ['rate', 'centre', 'depth', 'feedback'].map((p) =>
    context.number(p),
  ) as [Param, Param, Param, Param];
  const stages = STAGES[context.choice('stages')]!;
  const stereo = new Stereo(context);
  const S = new Float64Array(1);
  /** For each side the state of each stage, and what goes back. */
  const sides = [new Float64Array(stages + 1), new Float64Array(stages + 1)] as const;

  return {
    state: { S, left: sides[0], right: sides[1] },
    sampleRate,
    rate,
    centre,
    depth,
    feedback,
    stages,
    stereo,
    S,
    sides,
  };
}
type Phaser = ReturnType<typeof makePhaser>;

/** Gain of the one-pole step at a moment of the sweep. */
function poleAt({ centre, depth, sampleRate }: Phaser, turns: number): number {
  const share = (centre.value * exp2Quick(depth.value * sinTurns(turns))) / sampleRate;
  const g = tanTurns((share < 0.45 ? share : 0.45) / 2);
  return g / (1 + g);
}

/** The sweep is slow: its place is computed at both ends of a stretch, and a straight line drawn between. */
function phaserSide(
  { stages, feedback }: Phaser,
  memory: Float64Array,
  from: number,
  to: number,
  begin: number,
  end: number,
  dry: Float64Array,
  wet: Float64Array,
): void {
  const step = (end - begin) / (to - from);
  const back = feedback.value / 100;
  let last = memory[stages]!;
  for (let i = from; i < to; i++) {
    const a = begin + step * (i - from);
    const again = back * last;
    let y = dry[i]! + (again > 20 ? 20 : again < -20 ? -20 : again);
    for (let s = 0; s < stages; s++) {
      const low = memory[s]! + a * (y - memory[s]!);
      memory[s] = 2 * low - memory[s]!;
      y = 2 * low - y;
    }
    last = y;
    wet[i] = y;
  }
  for (let s = 0; s < stages; s++) memory[s] = tiny(memory[s]!);
  memory[stages] = tiny(last);
}

/** All-passes that sweep, with feedback around them. */
export const phaser = kernelOf(makePhaser, (parts, from, to) => {
  const { sampleRate, rate, stereo, S, sides } = parts;
  stereo.read(from, to);
  const before = S[0]!;
  const after = before + ((to - from) * rate.value) / sampleRate;
  S[0] = after - Math.floor(after);
  const { dryLeft, dryRight, wetLeft, wetRight } = stereo;
  phaserSide(
    parts,
    sides[0],
    from,
    to,
    poleAt(parts, before),
    poleAt(parts, after),
    dryLeft,
    wetLeft,
  );
  phaserSide(
    parts,
    sides[1],
    from,
    to,
    poleAt(parts, before - 0.25),
    poleAt(parts, after - 0.25),
    dryRight,
    wetRight,
  );
  stereo.write(from, to);
});
