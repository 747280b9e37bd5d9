import { Act } from '../key-feed';
import { kernelOf } from '../kernel';
import { KeyActs } from './key-acts';

const FOLLOWS: Record<string, Act> = {
  wheel: Act.wheel,
  bend: Act.bend,
  pressure: Act.pressure,
  pedal: Act.pedal,
};

/** A wheel or pedal: where it was recorded, until the player moves what it follows; then it goes there within 5 ms. */
export const controller = kernelOf(
  (context) => {
    const position = context.number('position');
    const follows = FOLLOWS[context.choice('follows')];
    const out = context.output('out');
    const acts = new KeyActs(context);
    /** Whether it is being moved, where to in V, where it is. */
    const S = new Float64Array([0, 0, position.value / 20]);
    const step = 1 / (0.0015 * context.sampleRate);
    return { state: { S, acts: acts.state }, position, follows, out, acts, S, step };
  },
  ({ position, follows, out, acts, S, step }, from, to) => {
    for (let i = from; i < to; i++) {
      while (acts.due(i)) {
        if (acts.take() !== follows) continue;
        S[0] = 1;
        S[1] = 5 * acts.value;
      }
      if (S[0] === 0) S[2] = (position.was + position.slope * i) / 20;
      else S[2] = S[2]! + (S[1]! - S[2]!) * step;
      out[i] = S[2]!;
    }
  },
);
