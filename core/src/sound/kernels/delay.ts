import { type Kernel, type KernelContext, tiny } from '../kernel';
import { tanTurns } from '../portable';
import { creep, DelayLine } from './delay-line';
import { stereoEffect } from './stereo';

const LONGEST_SECONDS = 5;
/** Level in V towards which the loop is held. */
const LIMIT = 12;

const limit = (x: number): number => x / Math.sqrt(1 + (x / LIMIT) * (x / LIMIT));

/** Gain of a one-pole step at a corner in Hz. */
export const poleGain = (hz: number, sampleRate: number): number => {
  const share = hz / sampleRate;
  const g = tanTurns((share < 0.45 ? share : 0.45) / 2);
  return g / (1 + g);
};

/** Two delays with filters and a limiter in their loops. */
export function delay(context: KernelContext): Kernel {
  const { sampleRate, transport } = context;
  const tied = context.choice('clock') === 'tempo';
  const crossed = context.choice('routing') === 'ping-pong';
  const times = ['left', 'right'].map((side) =>
    context.number(tied ? `beats-${side}` : `time-${side}`),
  );
  const feedback = context.number('feedback');
  const lowCut = context.number('low-cut');
  const highCut = context.number('high-cut');
  const lines = [0, 1].map(() => new DelayLine(LONGEST_SECONDS * sampleRate));
  /** Sample number, delays in samples as they are, low-pass and high-pass of each side. */
  const S = new Float64Array(7);
  S[1] = S[2] = -1;
  const goals = new Float64Array(2);
  let low = 0;
  let high = 0;
  const cut = (x: number, side: number): number => {
    const l = S[3 + side]! + high * (x - S[3 + side]!);
    S[3 + side] = tiny(2 * l - S[3 + side]!);
    const h = S[5 + side]! + low * (l - S[5 + side]!);
    S[5 + side] = tiny(2 * h - S[5 + side]!);
    return l - h;
  };
  return stereoEffect(
    context,
    { S, left: lines[0]!.samples, right: lines[1]!.samples },
    (from) => {
      if (from > 0) return;
      for (let side = 0; side < 2; side++) {
        const t = times[side]!.value;
        const seconds = tied ? (t * 60) / transport.tempo : t;
        goals[side] = Math.max(2, Math.min(LONGEST_SECONDS, seconds) * sampleRate);
        if (S[1 + side]! < 0) S[1 + side] = goals[side]!;
      }
      low = poleGain(lowCut.value, sampleRate);
      high = poleGain(highCut.value, sampleRate);
    },
    (l, r, i, wet) => {
      const now = ++S[0]!;
      S[1] = creep(S[1]!, goals[0]!);
      S[2] = creep(S[2]!, goals[1]!);
      // What was written this sample has a delay of 0.
      const a = lines[0]!.read(now, S[1]);
      const b = lines[1]!.read(now, S[2]);
      const back = (feedback.was + feedback.slope * i) / 100;
      const fromLeft = back * cut(a, 0);
      const fromRight = back * cut(b, 1);
      lines[0]!.write(now, tiny(limit(crossed ? (l + r) / 2 + fromRight : l + fromLeft)));
      lines[1]!.write(now, tiny(limit(crossed ? a : r + fromRight)));
      wet[0] = a;
      wet[1] = b;
    },
  );
}
