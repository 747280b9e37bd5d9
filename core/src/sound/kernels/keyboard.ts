import { noteFor, type NoteRule } from '../../pattern/allocate';
import { midiToVolts } from '../../theory/pitch';
import { Act } from '../key-feed';
import { kernelOf, BLOCK, StillOutput } from '../kernel';
import { fillPitch, Glide } from './glide';
import { KeyActs } from './key-acts';

/** The keys: who gets which note, gate and trigger, glide. `strokes: legato` gives no new trigger while another is held. */
export const keyboard = kernelOf(
  (context) => {
    const rule = context.choice('rule') as NoteRule;
    const legato = context.choice('strokes') === 'legato';
    const tune = context.number('tune');
    const bendRange = context.number('bend-range');
    const pitch1 = new StillOutput(context.output('pitch1'));
    const pitch2 = new StillOutput(context.output('pitch2'));
    const gate = new StillOutput(context.output('gate'));
    const trigger = new StillOutput(context.output('trigger'));
    const velocity = new StillOutput(context.output('velocity'));
    const pressure = new StillOutput(context.output('pressure'));
    const acts = new KeyActs(context);
    const glide = new Glide(context, 2);
    /** Velocity in V; then whether the last block stood still as a whole, and the tuning and bend range it had. */
    const S = new Float64Array(4);

    const spread = (tied: boolean): void => {
      const { held } = acts.state;
      for (let v = 0; v < 2 && acts.count > 0; v++) {
        glide.head(v, midiToVolts(noteFor(held, acts.count, rule, v)), tied);
      }
    };
    return {
      state: { S, acts: acts.state, glide: glide.state },
      legato,
      tune,
      bendRange,
      pitch1,
      pitch2,
      gate,
      trigger,
      velocity,
      pressure,
      acts,
      glide,
      S,
      spread,
    };
  },
  (
    {
      legato,
      tune,
      bendRange,
      pitch1,
      pitch2,
      gate,
      trigger,
      velocity,
      pressure,
      acts,
      glide,
      S,
      spread,
    },
    from,
    to,
  ) => {
    const whole = from === 0 && to === BLOCK;
    const quiet = whole && acts.nextWithin(0, to) === to && tune.slope === 0;
    if (quiet && S[1] === 1 && S[2] === tune.value && S[3] === bendRange.value) return;
    S[1] = quiet && glide.rests(0) && glide.rests(1) ? 1 : 0;
    S[2] = tune.value;
    S[3] = bendRange.value;
    if (from === 0) glide.update();
    let at = from;
    while (at < to) {
      let stroke = false;
      while (acts.due(at)) {
        const act = acts.take();
        if (act === Act.press) {
          S[0] = (5 * acts.value) / 127;
          spread(acts.count > 1);
          if (acts.count === 1 || !legato) stroke = true;
        } else if (acts.lifted > 0) spread(true);
      }
      // Between two acts everything but pitch stands still.
      const end = acts.nextWithin(at + 1, to);
      const shift = (acts.bend * bendRange.value) / 12 + tune.was / 1200;
      fillPitch(glide, 0, pitch1, at, end, shift, tune.slope / 1200);
      fillPitch(glide, 1, pitch2, at, end, shift, tune.slope / 1200);
      gate.hold(acts.count > 0 ? 5 : 0, at, end);
      trigger.hold(0, at, end);
      if (stroke) trigger.written()[at] = 5;
      velocity.hold(S[0]!, at, end);
      pressure.hold(5 * acts.pressure, at, end);
      at = end;
    }
  },
);
