import { fallFactor } from '../../theory/envelope';
import { kernelOf } from '../kernel';
import { Derived } from './envelope';

const open = (volts: number): boolean => volts > 2.5;

/** Follows no faster than it may. */
export const slew = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const { sampleRate } = context;
    const linear = context.choice('curve') === 'linear';
    const make = (s: number): number =>
      s <= 0 ? (linear ? Infinity : 0) : linear ? 5 / (s * sampleRate) : fallFactor(s, sampleRate);
    const rise = new Derived(context.number('rise'), make);
    const fall = new Derived(context.number('fall'), make);
    const S = new Float64Array(1);
    return { state: { S }, input, out, linear, rise, fall, S };
  },
  ({ input, out, linear, rise, fall, S }, from, to) => {
    const up = rise.update();
    const down = fall.update();
    let level = S[0]!;
    for (let i = from; i < to; i++) {
      const way = input[i]! - level;
      const by = way > 0 ? up : down;
      if (linear) level = way > by ? level + by : way < -by ? level - by : input[i]!;
      else level = input[i]! - way * by;
      out[i] = level;
    }
    S[0] = level;
  },
);

const HYSTERESIS = 0.05;

/** A gate while one signal is above another. */
export const comparator = kernelOf(
  (context) => {
    const input = context.input('in');
    const reference = context.input('reference');
    const out = context.output('out');
    const threshold = context.number('threshold');
    const S = new Float64Array(1);
    return { state: { S }, input, reference, out, threshold, S };
  },
  ({ input, reference, out, threshold, S }, from, to) => {
    for (let i = from; i < to; i++) {
      const over = input[i]! - reference[i]! - threshold.was - threshold.slope * i;
      S[0] = over > 0 ? 5 : over < -HYSTERESIS ? 0 : S[0]!;
      out[i] = S[0];
    }
  },
);

const TABLES: Record<string, (a: boolean, b: boolean) => boolean> = {
  and: (a, b) => a && b,
  or: (a, b) => a || b,
  xor: (a, b) => a !== b,
  nand: (a, b) => !(a && b),
  nor: (a, b) => !(a || b),
  not: (a) => !a,
};

/** Joins two gates. */
export const logic = kernelOf(
  (context) => {
    const a = context.input('a');
    const b = context.input('b');
    const out = context.output('out');
    const table = TABLES[context.choice('kind')]!;
    return { state: {}, a, b, out, table };
  },
  ({ a, b, out, table }, from, to) => {
    for (let i = from; i < to; i++) out[i] = table(open(a[i]!), open(b[i]!)) ? 5 : 0;
  },
);

/** Passes every n-th clock. */
export const divider = kernelOf(
  (context) => {
    const input = context.input('in');
    const reset = context.input('reset');
    const out = context.output('out');
    const by = context.number('by');
    /** Clocks since the last that passed, whether this one passes, whether in and reset are open. */
    const S = new Float64Array(4);
    S[0] = -1;
    return { state: { S }, input, reset, out, by, S };
  },
  ({ input, reset, out, by, S }, from, to) => {
    for (let i = from; i < to; i++) {
      const again = open(reset[i]!);
      if (again && S[3] === 0) S[0] = -1;
      S[3] = again ? 1 : 0;
      const now = open(input[i]!);
      if (now && S[2] === 0) {
        S[0] = (S[0]! + 1) % Math.max(1, Math.round(by.value));
        S[1] = S[0] === 0 ? 1 : 0;
      }
      S[2] = now ? 1 : 0;
      out[i] = now && S[1] === 1 ? 5 : 0;
    }
  },
);

/** A clock tied to the tempo, counted from the start: it does not drift. */
export const clock = kernelOf(
  (context) => {
    const out = context.output('out');
    const beats = context.number('beats');
    const swing = context.number('swing');
    const { transport, sampleRate } = context;
    /** Cycles at which this rate began, samples since, cycles a sample. */
    const S = new Float64Array(3);
    return { state: { S }, out, beats, swing, transport, sampleRate, S };
  },
  ({ out, beats, swing, transport, sampleRate, S }, from, to) => {
    const inc = transport.tempo / (60 * beats.value * sampleRate);
    if (inc !== S[2]) {
      S[0] = S[0]! + S[1]! * S[2]!;
      S[1] = 0;
      S[2] = inc;
    }
    // Of a pair of cycles, where the second begins; each is open for the first half of its own length.
    const second = swing.value / 100;
    const closes = (1 + second) / 2;
    for (let i = from; i < to; i++) {
      // A hair's breadth of rounding must not make a clock late by a sample.
      const pairs = 0.5 * (S[0]! + S[1]! * inc + 1e-9);
      S[1] = S[1]! + 1;
      const at = pairs - Math.floor(pairs);
      out[i] = at < 0.5 * second || (at >= second && at < closes) ? 5 : 0;
    }
  },
);

/** Keeps what came in at the last trigger. */
export const sampleHold = kernelOf(
  (context) => {
    const input = context.input('in');
    const trigger = context.input('trigger');
    const out = context.output('out');
    const S = new Float64Array(2);
    return { state: { S }, input, trigger, out, S };
  },
  ({ input, trigger, out, S }, from, to) => {
    for (let i = from; i < to; i++) {
      const now = open(trigger[i]!);
      if (now && S[1] === 0) S[0] = input[i]!;
      S[1] = now ? 1 : 0;
      out[i] = S[0]!;
    }
  },
);
