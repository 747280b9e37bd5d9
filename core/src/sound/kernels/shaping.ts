import { SCALES } from '../../catalogue/shaping';
import { fallFactor } from '../../theory/envelope';
import { sinTurns } from '../../theory/portable';
import { kernelOf } from '../kernel';
import { Derived } from './envelope';

const SEMITONE = 1 / 12;
/** Semitones beyond the middle between two notes at which the one that is held is let go. */
const HOLDS = 0.1;

/** Holds a voltage to the notes of a scale. */
export const quantiser = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const root = context.number('root');
    const notes = SCALES[context.choice('scale')]!;
    /** The note that is held, in semitones from 0 V; NaN before the first. */
    const S = new Float64Array([NaN]);
    /** The nearest note of the scale, in semitones from the root. */
    const nearest = (semitones: number): number => {
      const octave = Math.floor(semitones / 12);
      let best = Infinity;
      for (let o = octave - 1; o <= octave + 1; o++) {
        for (let n = 0; n < notes.length; n++) {
          const note = 12 * o + notes[n]!;
          if (Math.abs(note - semitones) < Math.abs(best - semitones)) best = note;
        }
      }
      return best;
    };
    return { state: { S }, input, out, root, nearest, S };
  },
  ({ input, out, root, nearest, S }, from, to) => {
    const base = Math.round(root.value);
    for (let i = from; i < to; i++) {
      const wanted = 12 * input[i]! - base;
      const note = nearest(wanted);
      const held = S[0]! - base;
      // NaN is nearer to nothing.
      if (!(Math.abs(held - wanted) <= Math.abs(note - wanted) + 2 * HOLDS)) S[0] = note + base;
      out[i] = S[0]! * SEMITONE;
    }
  },
);

/** Steps shorter than this are taken at their middle. */
const SHORT = 1e-5;

/** Turns over what is below nothing, or leaves one side out: the mean of the curve from sample to sample. */
export const rectifier = kernelOf(
  (context) => {
    const input = context.input('in');
    const out = context.output('out');
    const side = context.choice('side');
    // Slope above and below nothing.
    const above = side === 'lower' ? 0 : 1;
    const below = side === 'whole' ? -1 : side === 'lower' ? 1 : 0;
    const S = new Float64Array(1);
    return { state: { S }, input, out, above, below, S };
  },
  ({ input, out, above, below, S }, from, to) => {
    let before = S[0]!;
    for (let i = from; i < to; i++) {
      const now = input[i]!;
      const way = now - before;
      if (way < SHORT && way > -SHORT) {
        const middle = (now + before) / 2;
        out[i] = middle * (middle > 0 ? above : below);
      } else {
        const area = (now * now * (now > 0 ? above : below)) / 2;
        const last = (before * before * (before > 0 ? above : below)) / 2;
        out[i] = (area - last) / way;
      }
      before = now;
    }
    S[0] = before;
  },
);

/** The higher and the lower of two. */
export const extremes = kernelOf(
  (context) => ({
    state: {},
    a: context.input('a'),
    b: context.input('b'),
    high: context.output('high'),
    low: context.output('low'),
  }),
  ({ a, b, high, low }, from, to) => {
    for (let i = from; i < to; i++) {
      const [x, y] = [a[i]!, b[i]!];
      high[i] = x > y ? x : y;
      low[i] = x > y ? y : x;
    }
  },
);

/** How loud a sound is. */
export const follower = kernelOf(
  (context) => {
    const { sampleRate } = context;
    const factor = (seconds: number): number =>
      seconds <= 0 ? 0 : fallFactor(seconds, sampleRate);
    return {
      state: { S: new Float64Array(2) },
      input: context.input('in'),
      out: context.output('out'),
      gate: context.output('gate'),
      rise: new Derived(context.number('rise'), factor),
      fall: new Derived(context.number('fall'), factor),
      threshold: context.number('threshold'),
    };
  },
  ({ state, input, out, gate, rise, fall, threshold }, from, to) => {
    const { S } = state;
    const up = rise.update();
    const down = fall.update();
    let level = S[0]!;
    for (let i = from; i < to; i++) {
      const size = input[i]! < 0 ? -input[i]! : input[i]!;
      const by = size > level ? up : down;
      level = size + (level - size) * by;
      if (level < 1e-12) level = 0;
      out[i] = level;
      const mark = threshold.value;
      S[1] = level > mark ? 5 : level < 0.9 * mark ? 0 : S[1]!;
      gate[i] = S[1];
    }
    S[0] = level;
  },
);

const held = (p: number): number => (p > 0 ? (p < 1 ? p : 1) : 0);

/** From one sound to another. */
export const crossfade = kernelOf(
  (context) => ({
    state: {},
    a: context.input('a'),
    b: context.input('b'),
    cv: context.input('cv'),
    out: context.output('out'),
    position: context.number('position'),
    equal: context.choice('law') === 'equal',
  }),
  ({ a, b, cv, out, position, equal }, from, to) => {
    const { was, slope } = position;
    for (let i = from; i < to; i++) {
      const p = held((was + slope * i) / 100 + cv[i]! / 5);
      out[i] = equal
        ? sinTurns(0.25 + p / 4) * a[i]! + sinTurns(p / 4) * b[i]!
        : (1 - p) * a[i]! + p * b[i]!;
    }
  },
);

/** One sound between left and right. */
export const pan = kernelOf(
  (context) => ({
    state: {},
    input: context.input('in'),
    cv: context.input('cv'),
    left: context.output('left'),
    right: context.output('right'),
    position: context.number('position'),
  }),
  ({ input, cv, left, right, position }, from, to) => {
    const { was, slope } = position;
    for (let i = from; i < to; i++) {
      const p = held(0.5 + (was + slope * i) / 200 + cv[i]! / 10);
      left[i] = limited(Math.SQRT2 * sinTurns(0.25 + p / 4) * input[i]!);
      right[i] = limited(Math.SQRT2 * sinTurns(p / 4) * input[i]!);
    }
  },
);

const limited = (volts: number): number => (volts > 20 ? 20 : volts < -20 ? -20 : volts);

/** Four channels added, each opened by a voltage. */
export const voltageMixer = kernelOf(
  (context) => {
    const channels = [1, 2, 3, 4]
      .filter((n) => context.connected(`in${n}`))
      .map((n) => ({
        input: context.input(`in${n}`),
        cv: context.connected(`cv${n}`) ? context.input(`cv${n}`) : null,
        gain: context.number(`gain${n}`),
      }));
    return { state: {}, out: context.output('out'), channels };
  },
  ({ out, channels }, from, to) => {
    out.fill(0, from, to);
    for (const { input, cv, gain } of channels) {
      const { was, slope } = gain;
      for (let i = from; i < to; i++) {
        const open = cv ? held(cv[i]! / 5) : 1;
        out[i] = out[i]! + (was + slope * i) * open * input[i]!;
      }
    }
    for (let i = from; i < to; i++) out[i] = limited(out[i]!);
  },
);
