import { kernelOf } from '../kernel';

/** Steps that a row has. */
export const ROW_STEPS = 8;

const open = (volts: number): boolean => volts > 2.5;

/** A row of voltages, one a clock. Stands on its first step until the first clock comes. */
export const row = kernelOf(
  (context) => {
    const clock = context.input('clock');
    const reset = context.input('reset');
    const out = context.output('out');
    const gate = context.output('gate');
    const volts = Array.from({ length: ROW_STEPS }, (_, i) => context.number(`volts${i + 1}`));
    const last = context.number('last');
    const direction = context.choice('direction');
    const { random } = context;
    /** Step, way of there-and-back and pendulum (1 or -1), whether clock and reset are open, whether it has begun. */
    const S = new Float64Array([0, 1, 0, 0, 0]);

    function next(count: number): number {
      const at = Math.min(S[0]!, count - 1);
      if (S[4] === 0) return direction === 'back' ? count - 1 : 0;
      switch (direction) {
        case 'back':
          return at === 0 ? count - 1 : at - 1;
        case 'there-and-back':
        case 'pendulum': {
          const turns = at + S[1]! >= count || at + S[1]! < 0;
          if (turns) S[1] = -S[1]!;
          // There and back plays an end twice as it turns, a pendulum once.
          return count === 1 || (turns && direction === 'there-and-back') ? at : at + S[1]!;
        }
        case 'random':
          return Math.min(count - 1, Math.floor(random.next() * count));
        default:
          return at + 1 >= count ? 0 : at + 1;
      }
    }
    return { state: { S }, clock, reset, out, gate, volts, last, S, next };
  },
  ({ clock, reset, out, gate, volts, last, S, next }, from, to) => {
    const count = Math.min(ROW_STEPS, Math.max(1, Math.round(last.value)));
    for (let i = from; i < to; i++) {
      const again = open(reset[i]!);
      if (again && S[3] === 0) {
        S[0] = 0;
        S[1] = 1;
        S[4] = 0;
      }
      S[3] = again ? 1 : 0;
      const now = open(clock[i]!);
      if (now && S[2] === 0) {
        S[0] = next(count);
        S[4] = 1;
      }
      S[2] = now ? 1 : 0;
      const step = volts[S[0]!]!;
      out[i] = step.was + step.slope * i;
      gate[i] = now ? 5 : 0;
    }
  },
);
