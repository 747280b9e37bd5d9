import { type Kernel, type KernelContext, tiny } from '../kernel';
import { exp2 } from '../portable';
import { poleGain } from './delay';
import { creep, DelayLine } from './delay-line';
import { stereoEffect } from './stereo';

/** Lengths of the eight delays in ms at size 1: no common measure. */
const MS = [29.17, 34.63, 40.81, 47.27, 53.93, 61.07, 69.31, 78.89];
const LINES = 8;
const LARGEST = 1.5;
/** log2 of 0.001: 60 dB. */
const SIXTY = -9.965784284662087;
const PRE_SECONDS = 0.5;

/** Late field: eight delays fed back through an orthogonal matrix. */
export function reverb(context: KernelContext): Kernel {
  const { sampleRate } = context;
  const [pre, decay, size, damping, lowCut, highCut] = [
    'pre-delay',
    'decay',
    'size',
    'damping',
    'low-cut',
    'high-cut',
  ].map((p) => context.number(p)) as [Num, Num, Num, Num, Num, Num];
  const lines = MS.map((ms) => new DelayLine((ms / 1000) * LARGEST * sampleRate));
  const before = new DelayLine(PRE_SECONDS * sampleRate);
  /** Sample number, pre-delay, size as they are, low and high cut. */
  const S = new Float64Array([0, -1, -1, 0, 0]);
  const damped = new Float64Array(LINES);
  const gains = new Float64Array(LINES);
  const lengths = new Float64Array(LINES);
  const y = new Float64Array(LINES);
  let low = 0;
  let high = 0;
  let damp = 0;
  let last = NaN;
  const setGains = (): void => {
    for (let k = 0; k < LINES; k++) {
      lengths[k] = (MS[k]! / 1000) * S[2]! * sampleRate;
      gains[k] = exp2((SIXTY * (lengths[k]! / sampleRate)) / decay.value);
    }
  };
  return stereoEffect(
    context,
    {
      S,
      damped,
      before: before.samples,
      lines: Object.fromEntries(lines.map((l, k) => [k, l.samples])),
    },
    (from) => {
      if (from > 0) return;
      if (S[1]! < 0) {
        S[1] = pre.value * sampleRate;
        S[2] = size.value;
      }
      const way = size.value - S[2]!;
      const moving = way > 1e-6 || way < -1e-6;
      // Size creeps, a block at a time: no more than a click's worth.
      if (moving) S[2] = S[2]! + 0.01 * way;
      if (moving || last !== decay.value) {
        last = decay.value;
        setGains();
      }
      low = poleGain(lowCut.value, sampleRate);
      high = poleGain(highCut.value, sampleRate);
      damp = poleGain(damping.value, sampleRate);
    },
    (l, r, _i, wet) => {
      const now = ++S[0]!;
      S[1] = creep(S[1]!, pre.value * sampleRate);
      let x = (l + r) / 2;
      const under = S[4]! + high * (x - S[4]!);
      S[4] = tiny(2 * under - S[4]!);
      const over = S[3]! + low * (under - S[3]!);
      S[3] = tiny(2 * over - S[3]!);
      before.write(now, under - over);
      x = before.read(now, S[1] < 2 ? 2 : S[1]);
      for (let k = 0; k < LINES; k++) {
        const out = lines[k]!.read(now, lengths[k]!);
        const d = damped[k]! + damp * (gains[k]! * out - damped[k]!);
        damped[k] = tiny(2 * d - damped[k]!);
        y[k] = d;
      }
      wet[0] = (y[0]! - y[2]! + y[4]! - y[6]!) * 0.7;
      wet[1] = (y[1]! - y[3]! + y[5]! - y[7]!) * 0.7;
      // Hadamard matrix of order 8 in three rounds of sums and differences.
      for (let span = 1; span < LINES; span *= 2) {
        for (let k = 0; k < LINES; k++) {
          if ((k & span) !== 0) continue;
          const p = y[k]!;
          const q = y[k + span]!;
          y[k] = p + q;
          y[k + span] = p - q;
        }
      }
      for (let k = 0; k < LINES; k++) {
        lines[k]!.write(now, tiny(x * (k & 1 ? -0.5 : 0.5) + y[k]! * 0.35355339059327373));
      }
    },
  );
}

type Num = ReturnType<KernelContext['number']>;
