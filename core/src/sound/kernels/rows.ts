import { ROWS, STEPS } from '../../catalogue/tone';
import { addEvent, event, newRing, REACH } from '../band-limit';
import { kernelOf } from '../kernel';
import { exp2Quick } from '../quick';

const enum At {
  step,
  /** Share of the step that is gone. */
  phase,
  clock,
  reset,
  now,
  /** Volts of the first row before, for its edges. */
  before,
  begun,
}

const open = (volts: number): boolean => volts > 2.5;

/** Three rows of eight voltages with a clock of their own. */
export const rows = kernelOf(
  (context) => {
    const S = new Float64Array(7);
    const ring = newRing();
    return {
      state: { S, ring },
      sampleRate: context.sampleRate,
      clock: context.input('clock'),
      led: context.connected('clock'),
      reset: context.input('reset'),
      rateIn: context.input('rate'),
      outs: ROWS.map((row) => context.output(row)),
      gate: context.output('gate'),
      wave: context.output('wave'),
      volts: ROWS.map((row) => STEPS.map((i) => context.number(`${row}${i}`))),
      gates: STEPS.map((i) => context.number(`gate${i}`)),
      rate: context.number('rate'),
      last: context.number('last'),
      S,
      ring,
    };
  },
  (
    { sampleRate, clock, led, reset, rateIn, outs, gate, wave, volts, gates, rate, last, S, ring },
    from,
    to,
  ) => {
    const count = Math.min(STEPS.length, Math.max(1, Math.round(last.value)));
    const steady = rate.value / sampleRate;
    for (let i = from; i < to; i++) {
      const again = open(reset[i]!);
      const struck = open(clock[i]!);
      let ago = 0;
      if (again && S[At.reset] === 0) {
        S[At.step] = 0;
        S[At.phase] = 0;
        S[At.begun] = 0;
      }
      if (led) {
        if (struck && S[At.clock] === 0) {
          S[At.step] = S[At.begun] === 0 ? 0 : S[At.step]! + 1 >= count ? 0 : S[At.step]! + 1;
          S[At.begun] = 1;
        }
      } else {
        const fast = steady * exp2Quick(rateIn[i]!);
        const inc = fast < 0.5 ? fast : 0.5;
        S[At.phase] = S[At.phase]! + inc;
        if (S[At.phase]! >= 1) {
          S[At.phase] = S[At.phase]! - 1;
          ago = S[At.phase]! / inc;
          S[At.step] = S[At.step]! + 1 >= count ? 0 : S[At.step]! + 1;
        }
      }
      S[At.reset] = again ? 1 : 0;
      S[At.clock] = struck ? 1 : 0;
      const step = Math.min(S[At.step]!, count - 1);
      for (let r = 0; r < outs.length; r++) {
        const of = volts[r]![step]!;
        outs[r]![i] = of.was + of.slope * i;
      }
      const opens = gates[step]!.value >= 0.5 && (led ? struck : S[At.phase]! < 0.5);
      gate[i] = opens ? 5 : 0;
      const now = (S[At.now]! + 1) | 0;
      S[At.now] = now;
      const height = outs[0]![i]!;
      ring[now & 63] = ring[now & 63]! + height;
      if (height !== S[At.before]) {
        event[0] = ago < 1 ? ago : 1;
        event[1] = height - S[At.before]!;
        addEvent(ring, now);
        S[At.before] = height;
      }
      const ready = (now - REACH) & 63;
      wave[i] = ring[ready]!;
      ring[ready] = 0;
    }
  },
);
