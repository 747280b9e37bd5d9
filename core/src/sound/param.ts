import { exp2, log2 } from './portable';

/** Seconds that a turned control takes to arrive: short enough to follow the hand, long enough not to click. */
export const GLIDE_SECONDS = 0.008;

/**
 * A number that a control sets. It moves to where it is set in straight steps a block, so that kernels can follow it
 * sample by sample: `was + slope * i` for sample i of the block.
 */
export class Param {
  /** Value at the end of this block. */
  value: number;
  /** Value at its beginning. */
  was: number;
  /** Change a sample; 0 while nobody turns it. */
  slope = 0;
  private target: number;
  private left = 0;

  /** @param byRatio for frequencies and times, which are turned by equal ratios */
  constructor(
    value: number,
    private readonly byRatio: boolean,
  ) {
    this.value = value;
    this.was = value;
    this.target = value;
  }

  set(target: number, blocks: number): void {
    this.target = target;
    this.left = Math.max(1, blocks);
  }

  /** Stands at a value at once. */
  jump(value: number): void {
    this.value = this.was = this.target = value;
    this.slope = this.left = 0;
  }

  /** Takes the next step, over n samples. Says whether another will follow. */
  step(n: number): boolean {
    this.was = this.value;
    if (this.left <= 0) {
      this.slope = 0;
      return false;
    }
    this.value =
      this.left === 1
        ? this.target
        : this.byRatio && this.was > 0 && this.target > 0
          ? this.was * exp2(log2(this.target / this.was) / this.left)
          : this.was + (this.target - this.was) / this.left;
    this.left--;
    this.slope = (this.value - this.was) / n;
    return true;
  }
}
