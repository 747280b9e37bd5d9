import { midiToVolts } from '../../theory/pitch';
import { Act } from '../key-feed';
import { kernelOf, StillOutput } from '../kernel';
import { KeyActs } from './key-acts';

/** Keys of one stretch of the keyboard: a drum pad, or what one part of a box answers to. The last key struck counts. */
export const keyRange = kernelOf(
  (context) => {
    const low = context.number('from');
    const high = context.number('to');
    const transpose = context.number('transpose');
    const pitch = new StillOutput(context.output('pitch'));
    const gate = new StillOutput(context.output('gate'));
    const trigger = new StillOutput(context.output('trigger'));
    const velocity = new StillOutput(context.output('velocity'));
    const acts = new KeyActs(context);
    /** Last key struck inside, its velocity in V. */
    const S = new Float64Array([60, 0]);

    const inside = (note: number): boolean => note >= low.value && note <= high.value;
    const last = (): number => {
      const { held } = acts.state;
      for (let i = acts.count - 1; i >= 0; i--) if (inside(held[i]!)) return held[i]!;
      return -1;
    };
    return {
      state: { S, acts: acts.state },
      transpose,
      pitch,
      gate,
      trigger,
      velocity,
      acts,
      S,
      inside,
      last,
    };
  },
  ({ transpose, pitch, gate, trigger, velocity, acts, S, inside, last }, from, to) => {
    let at = from;
    while (at < to) {
      let stroke = false;
      while (acts.due(at)) {
        const act = acts.take();
        if (act !== Act.press || !inside(acts.note)) continue;
        S[0] = acts.note;
        S[1] = (5 * acts.value) / 127;
        stroke = true;
      }
      const end = acts.nextWithin(at + 1, to);
      const held = last();
      if (held >= 0) S[0] = held;
      pitch.hold(midiToVolts(S[0]!) + transpose.value / 12, at, end);
      gate.hold(held >= 0 ? 5 : 0, at, end);
      trigger.hold(0, at, end);
      if (stroke) trigger.written()[at] = 5;
      velocity.hold(S[1]!, at, end);
      at = end;
    }
  },
);

const CHANNELS = 4;

/** Keys shared out among four channels that are built each in its own way. */
export const channels = kernelOf(
  (context) => {
    const rule = context.choice('rule');
    const used = context.number('channels');
    const port = (name: string): StillOutput[] =>
      Array.from(
        { length: CHANNELS },
        (_, c) => new StillOutput(context.output(`${name}${c + 1}`)),
      );
    const [pitch, gate, trigger, velocity] = [
      port('pitch'),
      port('gate'),
      port('trigger'),
      port('velocity'),
    ];
    const acts = new KeyActs(context);
    /** Of each channel: key, whether it is held, when it was struck or let go, velocity in V, struck just now. */
    const V = {
      note: new Float64Array(CHANNELS).fill(60),
      on: new Float64Array(CHANNELS),
      since: new Float64Array(CHANNELS),
      volts: new Float64Array(CHANNELS),
      struck: new Float64Array(CHANNELS),
    };
    /** Acts so far; channel that was struck last. */
    const S = new Float64Array([0, -1]);

    const count = (): number => Math.min(CHANNELS, Math.max(1, Math.round(used.value)));

    function choose(note: number): number {
      const n = count();
      if (rule === 'rotation') return (S[1]! + 1) % n;
      for (let c = 0; c < n; c++) if (V.on[c] === 1 && V.note[c] === note) return c;
      let best = 0;
      for (let c = 1; c < n; c++) {
        const better =
          V.on[c]! < V.on[best]! || (V.on[c] === V.on[best] && V.since[c]! < V.since[best]!);
        if (better) best = c;
      }
      return best;
    }

    function take(c: number, note: number): void {
      V.note[c] = note;
      V.on[c] = 1;
      V.since[c] = S[0]!;
    }

    function strike(c: number): void {
      take(c, acts.note);
      V.volts[c] = (5 * acts.value) / 127;
      V.struck[c] = 1;
      S[1] = c;
    }

    function press(): void {
      if (rule === 'unison') for (let c = 0; c < count(); c++) strike(c);
      else strike(choose(acts.note));
    }

    function lift(): void {
      // Where all play one key, the one that was covered sounds again.
      if (acts.count > 0 && (rule === 'unison' || count() === 1)) {
        for (let c = 0; c < count(); c++) take(c, acts.state.held[acts.count - 1]!);
        return;
      }
      for (let k = 0; k < acts.lifted; k++) {
        for (let c = 0; c < CHANNELS; c++) {
          if (V.on[c] === 0 || V.note[c] !== acts.liftedNotes[k]) continue;
          V.on[c] = 0;
          V.since[c] = S[0]!;
        }
      }
    }
    return {
      state: { V, S, acts: acts.state },
      pitch,
      gate,
      trigger,
      velocity,
      acts,
      V,
      S,
      press,
      lift,
    };
  },
  ({ pitch, gate, trigger, velocity, acts, V, S, press, lift }, from, to) => {
    let at = from;
    while (at < to) {
      while (acts.due(at)) {
        S[0] = S[0]! + 1;
        if (acts.take() === Act.press) press();
        else if (acts.lifted > 0) lift();
      }
      const end = acts.nextWithin(at + 1, to);
      for (let c = 0; c < CHANNELS; c++) {
        pitch[c]!.hold(midiToVolts(V.note[c]!), at, end);
        gate[c]!.hold(V.on[c]! > 0 ? 5 : 0, at, end);
        trigger[c]!.hold(0, at, end);
        if (V.struck[c]! > 0) trigger[c]!.written()[at] = 5;
        V.struck[c] = 0;
        velocity[c]!.hold(V.volts[c]!, at, end);
      }
      at = end;
    }
  },
);
