import { exp2Quick } from '../quick';
import { kernelOf, tiny } from '../kernel';
import { poleGain } from './delay';
import { lineLength } from './delay-line';
import { Derived } from './envelope';

const LOWEST_HZ = 20;
const HIGHEST_HZ = 8000;
/** Level in V towards which the loop is held, squared. */
const LIMIT = 1 / (12 * 12);
const TWO_PI = 6.283185307179586;

/** A short delay fed back. */
export const comb = kernelOf(
  (context) => {
    const { sampleRate } = context;
    const length = lineLength(sampleRate / LOWEST_HZ);
    const line = new Float64Array(length);
    /** Sample number, low-pass of the loop. */
    const S = new Float64Array(2);
    const damping = context.number('damping');
    return {
      state: { S, line },
      sampleRate,
      input: context.input('in'),
      volts: context.input('frequency'),
      pitch: context.input('pitch'),
      out: context.output('out'),
      frequency: context.number('frequency'),
      track: context.number('track'),
      feedback: context.number('feedback'),
      mix: context.number('mix'),
      damping,
      pole: new Derived(damping, (hz) => (hz >= 20000 ? 1 : poleGain(hz, sampleRate))),
      line,
      mask: length - 1,
      S,
    };
  },
  (
    {
      sampleRate,
      input,
      volts,
      pitch,
      out,
      frequency,
      track,
      feedback,
      mix,
      damping,
      pole,
      line,
      mask,
      S,
    },
    from,
    to,
  ) => {
    const K = pole.update();
    // What the low-pass of the loop takes at low frequencies is made up by a shorter line.
    const late = K === 1 ? 0 : sampleRate / (TWO_PI * damping.value);
    const most = sampleRate / LOWEST_HZ;
    const follow = track.value / 100;
    let now = S[0]! | 0;
    let low = S[1]!;
    let last = NaN;
    let round = 0;
    for (let i = from; i < to; i++) {
      const octaves = frequency.octavesWas + volts[i]! + follow * pitch[i]!;
      if (octaves !== last) {
        last = octaves;
        const hz = exp2Quick(octaves);
        round = sampleRate / (hz > HIGHEST_HZ ? HIGHEST_HZ : hz) - late;
        round = round > most ? most : round < 2 ? 2 : round;
      }
      now = (now + 1) | 0;
      const whole = round | 0;
      const t = round - whole;
      const at = now - whole;
      const q = line[at & mask]!;
      let read = q;
      if (t !== 0) {
        const p = line[(at + 1) & mask]!;
        const r = line[(at - 1) & mask]!;
        const s = line[(at - 2) & mask]!;
        read = q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)));
      }
      if (K === 1) low = read;
      else {
        const y = low + K * (read - low);
        low = 2 * y - low;
        read = y;
      }
      const x = input[i]!;
      const into = x + (feedback.was + feedback.slope * i) * 0.01 * read;
      const kept = into / Math.sqrt(1 + into * into * LIMIT);
      line[now & mask] = kept > 1e-30 || kept < -1e-30 ? kept : 0;
      const m = (mix.was + mix.slope * i) * 0.01;
      const y = x + m * (kept - x);
      out[i] = y > 20 ? 20 : y < -20 ? -20 : y;
    }
    S[0] = now;
    S[1] = tiny(low);
  },
);
