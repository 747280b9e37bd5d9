import type { Kernel, KernelContext } from '../kernel';
import { cosTurns, sinTurns } from '../portable';
import { exp2Quick } from '../quick';

const PEAK = 5;

/** Where its memory stands. */
const enum At {
  /** Turns at which this rate began, and samples since. */
  turns,
  count,
  inc,
  cycle,
  held,
  before,
  open,
  /** Samples since the gate opened. */
  since,
}

/** Low frequency oscillator: free in Hz or tied to the tempo, fading in or out, once or on and on. */
export function lfo(context: KernelContext): Kernel {
  const gate = context.input('gate');
  const gated = context.connected('gate');
  const rateIn = context.input('rate');
  const bent = context.connected('rate');
  const out = context.output('out');
  const { random, sampleRate, transport } = context;
  const shape = context.choice('shape');
  const tied = context.choice('clock') === 'tempo';
  const once = context.choice('run') === 'once';
  const byKey = gated && (context.choice('reset') === 'key' || once);
  const outwards = context.choice('fade-kind') === 'out';
  const rate = context.number('rate');
  const beats = context.number('beats');
  const fade = context.number('fade');
  const delay = context.number('delay');
  const phase = context.number('phase');
  const S = new Float64Array(8);
  S[At.held] = 2 * random.next() - 1;
  S[At.before] = 2 * random.next() - 1;
  // Before the first stroke a fading one has not begun.
  S[At.since] = -1;

  const at = (p: number): number => {
    switch (shape) {
      case 'square':
        return p < 0.5 ? 1 : -1;
      case 'ramp-up':
        return 2 * p - 1;
      case 'ramp-down':
        return 1 - 2 * p;
      case 'sine':
        return sinTurns(p);
      case 'random':
        return S[At.held]!;
      case 'smooth':
        return S[At.before]! + (S[At.held]! - S[At.before]!) * (0.5 - 0.5 * cosTurns(p / 2));
      default:
        return p < 0.25 ? 4 * p : p < 0.75 ? 2 - 4 * p : 4 * p - 4;
    }
  };

  const draw = (): void => {
    S[At.before] = S[At.held]!;
    S[At.held] = 2 * random.next() - 1;
  };

  const setRate = (inc: number): void => {
    if (inc === S[At.inc]) return;
    S[At.turns] = S[At.turns]! + S[At.count]! * S[At.inc]!;
    S[At.count] = 0;
    S[At.inc] = inc;
  };

  return {
    state: { S, random: random.state },
    process(from, to) {
      const fading = gated && (fade.value > 0 || delay.value > 0);
      const wait = delay.value * sampleRate;
      const span = Math.max(1, fade.value * sampleRate);
      const steady = tied
        ? transport.tempo / (60 * beats.value * sampleRate)
        : rate.value / sampleRate;
      const offset = phase.value / 100;
      setRate(steady);
      for (let i = from; i < to; i++) {
        if (bent) {
          const fast = steady * exp2Quick(rateIn[i]!);
          setRate(fast < 0.5 ? fast : 0.5);
        }
        const now = gate[i]! > 2.5;
        if (now && S[At.open] === 0) {
          S[At.since] = 0;
          if (byKey) {
            S[At.turns] = S[At.count] = S[At.cycle] = 0;
            if (shape === 'random' || shape === 'smooth') draw();
          }
        } else if (S[At.since]! >= 0) S[At.since] = S[At.since]! + 1;
        S[At.open] = now ? 1 : 0;
        // From the count, not by adding up: no drift over hours.
        let turns = S[At.turns]! + S[At.count]! * S[At.inc]!;
        S[At.count] = S[At.count]! + 1;
        if (once && turns >= 1) turns = 1 - 1e-12;
        turns += offset;
        const whole = Math.floor(turns);
        if (whole !== S[At.cycle]) {
          S[At.cycle] = whole;
          draw();
        }
        let depth = 1;
        if (fading) {
          const t = (S[At.since]! - wait) / span;
          const shown = t < 0 ? 0 : t > 1 || fade.value <= 0 ? 1 : t;
          // Before the first stroke there is nothing to fade.
          depth = S[At.since]! < 0 ? 0 : outwards ? 1 - shown : shown;
        }
        out[i] = PEAK * depth * at(turns - whole);
      }
    },
  };
}
