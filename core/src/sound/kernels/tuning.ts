import type { KernelContext } from '../kernel';
import type { Param } from '../param';
import { log2 } from '../../theory/portable';

/** Seconds between two goals of the slow random walk, and how fast it follows them. */
const WALK_SECONDS = 0.4;

/**
 * Volts that an oscillator's own controls add to its pitch: octave, interval, fine, footage and drift. Straight over a
 * block: `was + slope * i` for sample i.
 */
export class Tuning {
  was = 0;
  slope = 0;
  /** Drift now and where it heads for, -1..1; blocks until it looks for another goal. */
  readonly state = new Float64Array(3);
  private readonly turned;
  private readonly drift;
  private still = NaN;

  constructor(private readonly context: KernelContext) {
    this.turned = ['octave', 'interval', 'fine', 'footage'].map((p) => context.number(p));
    this.drift = context.number('drift');
  }

  /** Once a block, before its first sample. @param n samples of the block */
  update(n: number): void {
    const [octave, interval, fine, footage] = this.turned as [Param, Param, Param, Param];
    const turning =
      octave.slope !== 0 || interval.slope !== 0 || fine.slope !== 0 || footage.slope !== 0;
    if (turning || Number.isNaN(this.still)) {
      const from = (octave.was + interval.was) / 12 + fine.was / 1200 + log2(8 / footage.was);
      this.still =
        (octave.value + interval.value) / 12 + fine.value / 1200 + log2(8 / footage.value);
      this.was = from;
      this.slope = (this.still - from) / n;
    } else {
      this.was = this.still;
      this.slope = 0;
    }
    if (this.drift.value > 0) this.was += this.walk();
  }

  private walk(): number {
    const { state, context } = this;
    if (--state[2]! <= 0) {
      state[1] = 2 * context.random.next() - 1;
      state[2] = Math.round((WALK_SECONDS * context.sampleRate) / 64);
    }
    state[0] = state[0]! + 0.004 * (state[1]! - state[0]!);
    return (state[0]! * this.drift.value) / 1200;
  }
}
