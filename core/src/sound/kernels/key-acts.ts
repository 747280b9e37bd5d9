import { Act } from '../key-feed';
import type { KernelContext } from '../kernel';

/** Where the memory of `KeyActs` stands. */
const enum At {
  next,
  count,
  pedal,
  bend,
  pressure,
}

/**
 * The keys as they are held, in the order of pressing, with the pedal's help; bender and pressure. Each listener walks
 * through the feed by itself.
 */
export class KeyActs {
  readonly state = {
    S: new Float64Array(5),
    held: new Int32Array(128),
    /** 1 while a finger is on the key; held keys without one hang on the pedal. */
    down: new Uint32Array(128),
  };

  constructor(private readonly context: KernelContext) {}

  get count(): number {
    return this.state.S[At.count]!;
  }
  /** -1..1. */
  get bend(): number {
    return this.state.S[At.bend]!;
  }
  /** 0..1. */
  get pressure(): number {
    return this.state.S[At.pressure]!;
  }

  /** Whether something has happened up to this sample of the block. */
  due(i: number): boolean {
    const { keys, transport } = this.context;
    const next = this.state.S[At.next]!;
    return next < keys.count && keys.sampleOf(next) <= transport.sample + i;
  }

  /** First sample of the block, from `from` on, at which something happens; `to` when nothing does before it. */
  nextWithin(from: number, to: number): number {
    const { keys, transport } = this.context;
    const next = this.state.S[At.next]!;
    if (next >= keys.count) return to;
    const at = keys.sampleOf(next) - transport.sample;
    return at < from ? from : at < to ? at : to;
  }

  /** Takes the next act and says which it was; its note and value are in `note` and `value`. */
  take(): Act {
    const { keys } = this.context;
    const { S, held, down } = this.state;
    const next = S[At.next]!++;
    const act = keys.actOf(next);
    this.note = keys.noteOf(next);
    this.value = keys.valueOf(next);
    this.lifted = 0;
    switch (act) {
      case Act.press:
        this.drop(this.note);
        held[S[At.count]!++] = this.note;
        down[this.note] = 1;
        break;
      case Act.release:
        down[this.note] = 0;
        if (S[At.pedal] === 0) this.lift(this.note);
        break;
      case Act.pedal:
        S[At.pedal] = this.value >= 0.5 ? 1 : 0;
        if (S[At.pedal] === 0) {
          for (let i = S[At.count]! - 1; i >= 0; i--) if (down[held[i]!] === 0) this.lift(held[i]!);
        }
        break;
      case Act.bend:
        S[At.bend] = this.value;
        break;
      case Act.pressure:
        S[At.pressure] = this.value;
        break;
    }
    return act;
  }

  note = 0;
  value = 0;
  /** Keys that stopped sounding with the last act. */
  lifted = 0;
  readonly liftedNotes = new Int32Array(128);

  private lift(note: number): void {
    if (this.drop(note)) this.liftedNotes[this.lifted++] = note;
  }

  private drop(note: number): boolean {
    const { S, held } = this.state;
    const count = S[At.count]!;
    for (let i = 0; i < count; i++) {
      if (held[i] !== note) continue;
      held.copyWithin(i, i + 1, count);
      S[At.count] = count - 1;
      return true;
    }
    return false;
  }
}
