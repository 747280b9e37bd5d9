import { BLOCK, type KernelContext } from '../kernel';

/** What all effects share: `in` goes to both sides, and the wet sound is mixed with the dry one. */
export class Stereo {
  readonly dryLeft = new Float64Array(BLOCK);
  readonly dryRight = new Float64Array(BLOCK);
  readonly wetLeft = new Float64Array(BLOCK);
  readonly wetRight = new Float64Array(BLOCK);
  private readonly both: Float64Array;
  private readonly inLeft: Float64Array;
  private readonly inRight: Float64Array;
  private readonly left: Float64Array;
  private readonly right: Float64Array;
  private readonly out: Float64Array;
  private readonly mix;

  constructor(context: KernelContext) {
    this.both = context.input('in');
    this.inLeft = context.input('left');
    this.inRight = context.input('right');
    this.left = context.output('left', 0);
    this.right = context.output('right', 0);
    this.out = context.output('out', 0);
    this.mix = context.number('mix');
  }

  /** Fills the dry sides. */
  read(from: number, to: number): void {
    const { both, inLeft, inRight, dryLeft, dryRight } = this;
    for (let i = from; i < to; i++) {
      dryLeft[i] = both[i]! + inLeft[i]!;
      dryRight[i] = both[i]! + inRight[i]!;
    }
  }

  /** Puts out what stands in the wet sides. */
  write(from: number, to: number): void {
    const { dryLeft, dryRight, wetLeft, wetRight, left, right, out } = this;
    const { was, slope } = this.mix;
    for (let i = from; i < to; i++) {
      const m = (was + slope * i) * 0.01;
      let l = dryLeft[i]! + m * (wetLeft[i]! - dryLeft[i]!);
      let r = dryRight[i]! + m * (wetRight[i]! - dryRight[i]!);
      l = l > 20 ? 20 : l < -20 ? -20 : l;
      r = r > 20 ? 20 : r < -20 ? -20 : r;
      left[i] = l;
      right[i] = r;
      out[i] = 0.5 * (l + r);
    }
  }
}
