import { commonRule, noteFor, sounding, type VoiceRule } from '../../pattern/allocate';
import { midiToVolts } from '../../theory/pitch';
import { Act } from '../key-feed';
import { kernelOf, type KernelContext, StillOutput } from '../kernel';
import { sinTurns } from '../../theory/portable';
import { fillPitch, Glide } from './glide';
import { KeyActs } from './key-acts';

/** Keys of an instrument with several voices: each gets pitch, gate, trigger, velocity and place of its own. */
export const voices = kernelOf(
  (context) => {
    const { voices: count } = context;
    const rule = context.choice('rule') as VoiceRule;
    const common = commonRule(rule, count);
    /** Voices that sound when all play together. */
    const all = common ? sounding(common, count) : count;
    const legato = context.choice('strokes') === 'legato';
    const [detune, spread, tune, bendRange] = ['detune', 'spread', 'tune', 'bend-range'].map((p) =>
      context.number(p),
    ) as [Num, Num, Num, Num];
    const port = (name: string): StillOutput[] =>
      Array.from({ length: count }, (_, v) => new StillOutput(context.output(name, v)));
    const pitch = port('pitch');
    const gate = port('gate');
    const trigger = port('trigger');
    const velocity = port('velocity');
    const pan = port('pan');
    const anyGate = new StillOutput(context.output('any-gate', 0));
    const anyTrigger = new StillOutput(context.output('any-trigger', 0));
    const pressure = new StillOutput(context.output('pressure', 0));
    const acts = new KeyActs(context);
    const glide = new Glide(context, count);
    /** Per voice: its key, whether it sounds, whether its gate is up, when it was taken or let go, its velocity in V. */
    const V = {
      note: new Float64Array(count).fill(-1),
      on: new Float64Array(count),
      open: new Float64Array(count),
      since: new Float64Array(count),
      velocity: new Float64Array(count),
      struck: new Float64Array(count),
    };
    /** Number of the act, and the voice whose turn it was last. */
    const S = new Float64Array([0, count - 1]);

    /** The voice for a new key. */
    function choose(note: number): number {
      if (rule === 'rotation') return (S[1] = (S[1]! + 1) % count);
      let best = 0;
      for (let v = 0; v < count; v++) {
        if (V.note[v] === note) return v;
        const rested = V.on[v]! < V.on[best]!;
        if (rested || (V.on[v] === V.on[best] && V.since[v]! < V.since[best]!)) best = v;
      }
      return best;
    }

    function strike(v: number, note: number, tied: boolean, anew: boolean): void {
      glide.head(v, midiToVolts(note), tied);
      V.note[v] = note;
      V.on[v] = 1;
      V.open[v] = 1;
      V.since[v] = S[0]!;
      if (anew) V.struck[v] = 1;
    }

    function press(): void {
      const tied = acts.count > 1;
      const volts = (5 * acts.value) / 127;
      if (!common) {
        const v = choose(acts.note);
        V.velocity[v] = volts;
        strike(v, acts.note, tied, true);
        return;
      }
      V.velocity.fill(volts);
      for (let v = 0; v < all; v++) strike(v, wanted(v), tied, !tied || !legato);
    }

    const wanted = (v: number): number => noteFor(acts.state.held, acts.count, common!, v);

    function lift(): void {
      if (common && acts.count > 0) {
        for (let v = 0; v < all; v++) strike(v, wanted(v), true, false);
        return;
      }
      for (let k = 0; k < acts.lifted; k++) {
        for (let v = 0; v < count; v++) {
          if (V.on[v] === 0 || (!common && V.note[v] !== acts.liftedNotes[k])) continue;
          V.on[v] = 0;
          V.since[v] = S[0]!;
          // One gate for all: it stays up until the last key is let go.
          if (rule !== 'paraphonic') V.open[v] = 0;
        }
      }
      if (acts.count === 0) V.open.fill(0);
    }
    return {
      state: { V, S, acts: acts.state, glide: glide.state },
      count,
      legato,
      detune,
      spread,
      tune,
      bendRange,
      pitch,
      gate,
      trigger,
      velocity,
      pan,
      anyGate,
      anyTrigger,
      pressure,
      acts,
      glide,
      V,
      S,
      press,
      lift,
    };
  },
  (
    {
      count,
      legato,
      detune,
      spread,
      tune,
      bendRange,
      pitch,
      gate,
      trigger,
      velocity,
      pan,
      anyGate,
      anyTrigger,
      pressure,
      acts,
      glide,
      V,
      S,
      press,
      lift,
    },
    from,
    to,
  ) => {
    if (from === 0) glide.update();
    let at = from;
    while (at < to) {
      let stroke = false;
      while (acts.due(at)) {
        S[0]!++;
        const act = acts.take();
        if (act === Act.press) {
          press();
          stroke ||= acts.count === 1 || !legato;
        } else if (acts.lifted > 0) lift();
      }
      const end = acts.nextWithin(at + 1, to);
      anyGate.hold(acts.count > 0 ? 5 : 0, at, end);
      anyTrigger.hold(0, at, end);
      if (stroke) anyTrigger.written()[at] = 5;
      pressure.hold(5 * acts.pressure, at, end);
      const bent = tune.was / 1200 + (acts.bend * bendRange.value) / 12;
      for (let v = 0; v < count; v++) {
        const place = count > 1 ? (2 * v) / (count - 1) - 1 : 0;
        const shift = bent + (detune.was * place) / 1200;
        const slope = (tune.slope + detune.slope * place) / 1200;
        fillPitch(glide, v, pitch[v]!, at, end, shift, slope);
        gate[v]!.hold(V.open[v]! > 0 ? 5 : 0, at, end);
        trigger[v]!.hold(0, at, end);
        if (V.struck[v]! > 0) trigger[v]!.written()[at] = 5;
        V.struck[v] = 0;
        velocity[v]!.hold(V.velocity[v]!, at, end);
        pan[v]!.hold((5 * place * spread.value) / 100, at, end);
      }
      at = end;
    }
  },
);

type Num = ReturnType<KernelContext['number']>;

/** The voices added, each at its place; constant power between left and right. */
export const voiceMixer = kernelOf(
  (context) => {
    const { voices: count } = context;
    const ins = Array.from({ length: count }, (_, v) => context.input('in', v));
    const pans = Array.from({ length: count }, (_, v) => context.input('pan', v));
    const placed = context.connected('pan');
    const level = context.number('level');
    const left = context.output('left', 0);
    const right = context.output('right', 0);
    const out = context.output('out', 0);
    /** Place of each voice in V, and its shares of left and right. */
    const places = new Float64Array(count).fill(NaN);
    const shares = new Float64Array(2 * count).fill(1);
    /** Shares of left and right of each voice at the end of the last block. */
    const P = new Float64Array(2 * count).fill(-1);
    return { state: { P }, count, ins, pans, placed, level, left, right, out, places, shares, P };
  },
  ({ count, ins, pans, placed, level, left, right, out, places, shares, P }, from, to) => {
    left.fill(0, from, to);
    right.fill(0, from, to);
    for (let v = 0; v < count; v++) {
      const input = ins[v]!;
      const l = left;
      const r = right;
      // The place is the same over a block: it is turned by hand, not by a signal.
      const volts = placed ? pans[v]![from]! : 0;
      if (placed && volts !== places[v]) {
        places[v] = volts;
        const at = volts < -5 ? 0 : volts > 5 ? 0.25 : 0.125 * (1 + volts / 5);
        shares[2 * v] = Math.SQRT2 * sinTurns(0.25 - at);
        shares[2 * v + 1] = Math.SQRT2 * sinTurns(at);
      }
      const toLeft = shares[2 * v]!;
      const toRight = shares[2 * v + 1]!;
      const fromLeft = P[2 * v]!;
      const fromRight = P[2 * v + 1]!;
      const a = fromLeft < 0 ? toLeft : fromLeft;
      const b = fromRight < 0 ? toRight : fromRight;
      const da = (toLeft - a) / (to - from);
      const db = (toRight - b) / (to - from);
      for (let i = from; i < to; i++) {
        const x = input[i]!;
        l[i] = l[i]! + (a + da * (i - from)) * x;
        r[i] = r[i]! + (b + db * (i - from)) * x;
      }
      P[2 * v] = toLeft;
      P[2 * v + 1] = toRight;
    }
    for (let i = from; i < to; i++) {
      const gain = level.was + level.slope * i;
      let l = gain * left[i]!;
      let r = gain * right[i]!;
      l = l > 20 ? 20 : l < -20 ? -20 : l;
      r = r > 20 ? 20 : r < -20 ? -20 : r;
      left[i] = l;
      right[i] = r;
      out[i] = 0.5 * (l + r);
    }
  },
);
