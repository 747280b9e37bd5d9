import type { GraphFeed } from '../../circuit/graph';
import { Act } from '../key-feed';
import { BLOCK, type KernelContext, kernelOf } from '../kernel';
import { KeyActs } from './key-acts';

const FULL_SCALE_VOLTS = 10;

/** Where the memory of a player stands. */
const enum At {
  /** Sample of the recording that comes next; below 0 while it rests. */
  place,
}

/**
 * Plays a recording: from the beginning on, or from each key on that is pressed. Between its samples the way is a cubic
 * through the four around (Catmull and Rom, A Class of Local Interpolating Splines, 1974); at its own rate they are its own.
 */
class Player {
  readonly state;
  private readonly acts: KeyActs;
  private readonly step: number;
  readonly left = new Float64Array(BLOCK);
  readonly right = new Float64Array(BLOCK);

  constructor(
    private readonly feed: GraphFeed,
    context: KernelContext,
  ) {
    this.acts = new KeyActs(context);
    this.step = feed.sampleRate / context.sampleRate;
    const S = Float64Array.of(feed.start === 'key' ? -1 : 0);
    this.state = { S, acts: this.acts.state };
  }

  play(from: number, to: number): void {
    const { feed, acts, step, left, right } = this;
    const { S } = this.state;
    const { length } = feed.left;
    const byKey = feed.start === 'key';
    for (let i = from; i < to; i++) {
      while (acts.due(i)) if (acts.take() === Act.press && byKey) S[At.place] = 0;
      let place = S[At.place]!;
      if (place < 0 || length === 0) {
        left[i] = right[i] = 0;
        continue;
      }
      const at = Math.floor(place);
      left[i] = FULL_SCALE_VOLTS * this.between(feed.left, at, place - at);
      right[i] = FULL_SCALE_VOLTS * this.between(feed.right, at, place - at);
      place += step;
      S[At.place] = place < length ? place : feed.round ? place % length : -1;
    }
  }

  private between(sound: Float32Array, at: number, t: number): number {
    const b = sound[at]!;
    if (t === 0) return b;
    const { round } = this.feed;
    const last = sound.length - 1;
    const a = at > 0 ? sound[at - 1]! : round ? sound[last]! : 0;
    const c = at < last ? sound[at + 1]! : round ? sound[0]! : 0;
    const d = at + 1 < last ? sound[at + 2]! : round ? sound[(at + 2) % sound.length]! : 0;
    return b + (t / 2) * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
  }
}

/** Sound from outside: what comes in now, or the recording that is fed in. */
export const external = kernelOf(
  (context) => {
    const player = context.feed ? new Player(context.feed, context) : undefined;
    const [inLeft, inRight] = player ? [player.left, player.right] : context.external;
    const left = context.output('left');
    const right = context.output('right');
    const out = context.output('out');
    const level = context.number('level');
    return { state: player?.state ?? {}, player, inLeft, inRight, left, right, out, level };
  },
  ({ player, inLeft, inRight, left, right, out, level }, from, to) => {
    player?.play(from, to);
    for (let i = from; i < to; i++) {
      const gain = level.was + level.slope * i;
      const l = gain * inLeft[i]!;
      const r = gain * inRight[i]!;
      left[i] = l > 20 ? 20 : l < -20 ? -20 : l;
      right[i] = r > 20 ? 20 : r < -20 ? -20 : r;
      out[i] = (left[i]! + right[i]!) / 2;
    }
  },
);
