import { TwiceRate } from '../halfband';
import { kernelOf } from '../kernel';
import { exp } from '../../theory/portable';

const TAU = 6.283185307179586;
/** Poles an octave apart, in Hz; the zero of each stands half an octave above it. */
const LOWEST = 10;

/** White noise, uniform between -5 and 5 V, or pink: through poles and zeros in turn. */
export const noise = kernelOf(
  (context) => {
    const out = context.output('out');
    const { random, sampleRate } = context;
    const pink = context.choice('colour') === 'pink';
    const poles: number[] = [];
    const zeros: number[] = [];
    for (let hz = LOWEST; hz < sampleRate; hz *= 2) {
      poles.push(exp((-TAU * hz) / sampleRate));
      zeros.push(exp((-TAU * hz * Math.SQRT2) / sampleRate));
    }
    const memory = new Float64Array(2 * poles.length);
    const level = pinkLevel(poles, zeros);
    const P = Float64Array.from(poles);
    const Z = Float64Array.from(zeros);
    return {
      state: { random: random.state, memory, S: new Float64Array(1) },
      out,
      random,
      pink,
      memory,
      level,
      P,
      Z,
      trigger: context.connected('trigger') ? context.input('trigger') : null,
      start: context.number('start'),
      /** Where the recording begins. */
      first: random.state[0]!,
      sampleRate,
    };
  },
  (
    { state: { S }, out, random, pink, memory, level, P, Z, trigger, start, first, sampleRate },
    from,
    to,
  ) => {
    const y = out;
    for (let i = from; i < to; i++) {
      if (trigger) {
        const open = trigger[i]! > 2.5;
        if (open && S[0] === 0) {
          random.skipFrom(first, Math.round((start.value / 100) * sampleRate));
          memory.fill(0);
        }
        S[0] = open ? 1 : 0;
      }
      y[i] = 10 * random.next() - 5;
    }
    if (!pink) return;
    // One section after the other over the whole stretch.
    for (let s = 0; s < P.length; s++) {
      const pole = P[s]!;
      const zero = Z[s]!;
      let x1 = memory[2 * s]!;
      let y1 = memory[2 * s + 1]!;
      for (let i = from; i < to; i++) {
        const x = y[i]!;
        y1 = x - zero * x1 + pole * y1;
        x1 = x;
        y[i] = y1;
      }
      memory[2 * s] = x1;
      memory[2 * s + 1] = y1;
    }
    for (let i = from; i < to; i++) {
      const volts = level * y[i]!;
      y[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
  },
);

/** Gain that leaves pink noise with the power of the white it is made of: from the impulse response. */
function pinkLevel(poles: readonly number[], zeros: readonly number[]): number {
  const memory = new Float64Array(2 * poles.length);
  let power = 0;
  for (let i = 0; i < 40000; i++) {
    let value = i === 0 ? 1 : 0;
    for (let s = 0; s < poles.length; s++) {
      const next = value - zeros[s]! * memory[2 * s]! + poles[s]! * memory[2 * s + 1]!;
      memory[2 * s] = value;
      memory[2 * s + 1] = next;
      value = next;
    }
    power += value * value;
  }
  return 1 / Math.sqrt(power);
}

/**
 * Ring modulator, a times b over 5 V; or amplitude modulator, where b at rest leaves half of a. At twice the sample rate: a
 * product reaches as high as both together.
 */
export const ring = kernelOf(
  (context) => {
    const a = context.input('a');
    const b = context.input('b');
    const out = context.output('out');
    const amplitude = context.choice('kind') === 'amplitude';
    const [first, second] = [new TwiceRate(), new TwiceRate()];
    return {
      state: { first: first.state, second: second.state },
      a,
      b,
      out,
      amplitude,
      first,
      second,
    };
  },
  ({ a, b, out, amplitude, first, second }, from, to) => {
    first.up(a, from, to);
    second.up(b, from, to);
    const x = first.samples;
    const y = second.samples;
    for (let i = 2 * from; i < 2 * to; i++) {
      const volts = amplitude ? (x[i]! * (1 + y[i]! / 5)) / 2 : (x[i]! * y[i]!) / 5;
      x[i] = volts > 20 ? 20 : volts < -20 ? -20 : volts;
    }
    first.down(out, from, to);
  },
);
