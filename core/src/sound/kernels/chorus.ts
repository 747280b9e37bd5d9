import type { Kernel, KernelContext } from '../kernel';
import { cosTurns, sinTurns, tanTurns } from '../portable';
import { exp2Quick } from '../quick';
import { tiny } from '../kernel';
import { DelayLine } from './delay-line';
import { stereoEffect } from './stereo';

const CENTRE_SECONDS = 0.007;
const SWING_SECONDS = 0.005;

/** Two moving delays a side. */
export function chorus(context: KernelContext): Kernel {
  const { sampleRate } = context;
  const rate = context.number('rate');
  const depth = context.number('depth');
  const longest = Math.ceil((CENTRE_SECONDS + SWING_SECONDS) * sampleRate) + 4;
  const lines = [new DelayLine(longest), new DelayLine(longest)] as const;
  /** Phase, sample number. */
  const S = new Float64Array(2);
  const centre = CENTRE_SECONDS * sampleRate;
  let inc = 0;
  return stereoEffect(
    context,
    { S, left: lines[0].samples, right: lines[1].samples },
    () => (inc = rate.value / sampleRate),
    (l, r, i, wet) => {
      const now = ++S[1]!;
      lines[0].write(now, l);
      lines[1].write(now, r);
      const p = S[0]! + inc;
      S[0] = p >= 1 ? p - 1 : p;
      const swing = ((depth.was + depth.slope * i) / 100) * SWING_SECONDS * sampleRate;
      const a = swing * sinTurns(S[0]!);
      const b = swing * cosTurns(S[0]!);
      wet[0] = (lines[0].read(now, centre + a) + lines[0].read(now, centre + b)) / 2;
      wet[1] = (lines[1].read(now, centre - a) + lines[1].read(now, centre - b)) / 2;
    },
  );
}

const STAGES: Record<string, number> = { four: 4, six: 6, eight: 8 };

/** All-passes that sweep, with feedback around them. */
export function phaser(context: KernelContext): Kernel {
  const { sampleRate } = context;
  const [rate, centre, depth, feedback] = ['rate', 'centre', 'depth', 'feedback'].map((p) =>
    context.number(p),
  ) as [Num, Num, Num, Num];
  const stages = STAGES[context.choice('stages')]!;
  /** Phase; then for each side what goes back, and the state of each stage. */
  const S = new Float64Array(1);
  const sides = [new Float64Array(stages + 1), new Float64Array(stages + 1)];
  let inc = 0;
  const one = (x: number, memory: Float64Array, turns: number): number => {
    const hz = centre.value * exp2Quick(depth.value * sinTurns(turns));
    const share = hz / sampleRate;
    const g = tanTurns((share < 0.45 ? share : 0.45) / 2);
    const a = g / (1 + g);
    // Held below the level at which feedback could pile up.
    const back = (feedback.value / 100) * memory[stages]!;
    let y = x + (back > 20 ? 20 : back < -20 ? -20 : back);
    for (let s = 0; s < stages; s++) {
      const low = memory[s]! + a * (y - memory[s]!);
      memory[s] = tiny(2 * low - memory[s]!);
      y = 2 * low - y;
    }
    memory[stages] = tiny(y);
    return y;
  };
  return stereoEffect(
    context,
    { S, left: sides[0]!, right: sides[1]! },
    () => (inc = rate.value / sampleRate),
    (l, r, _i, wet) => {
      const p = S[0]! + inc;
      S[0] = p >= 1 ? p - 1 : p;
      wet[0] = one(l, sides[0]!, S[0]);
      wet[1] = one(r, sides[1]!, S[0] - 0.25);
    },
  );
}

type Num = ReturnType<KernelContext['number']>;
