import { exp2, log2 } from '../theory/portable';

/** Seconds that a turned control takes to arrive: short enough to follow the hand, long enough not to click. */
export const GLIDE_SECONDS = 0.008;

/** Where its numbers stand: in an array nothing is made for the collector when they change. */
const enum At {
  value,
  was,
  slope,
  octaves,
  octavesWas,
  target,
  targetOctaves,
  /** Blocks until it arrives. */
  left,
  /** Of a step by equal ratios, worked out when the control is turned; no number when the steps are straight. */
  ratio,
}

/**
 * A number that a control sets. It moves to where it is set in straight steps a block, so that kernels can follow it
 * sample by sample: `was + slope * i` for sample i of the block.
 */
export class Param {
  private readonly S = new Float64Array(9);

  /** @param byRatio for frequencies and times, which are turned by equal ratios */
  constructor(
    value: number,
    readonly byRatio: boolean,
  ) {
    this.jump(value);
  }

  /** Value at the end of this block. */
  get value(): number {
    return this.S[At.value]!;
  }
  /** Value at its beginning. */
  get was(): number {
    return this.S[At.was]!;
  }
  /** Change a sample; 0 while nobody turns it. */
  get slope(): number {
    return this.S[At.slope]!;
  }
  /** Logarithms to base 2 of value and was, for what is turned by equal ratios. */
  get octaves(): number {
    return this.S[At.octaves]!;
  }
  get octavesWas(): number {
    return this.S[At.octavesWas]!;
  }

  set(target: number, blocks: number): void {
    const { S } = this;
    S[At.target] = target;
    S[At.left] = Math.max(1, blocks);
    S[At.ratio] = NaN;
    if (!this.byRatio) return;
    S[At.targetOctaves] = log2(target);
    if (S[At.value]! > 0 && target > 0)
      S[At.ratio] = exp2((S[At.targetOctaves]! - S[At.octaves]!) / S[At.left]!);
  }

  /** Is at a value by the end of the next n samples. */
  lead(value: number, n: number): void {
    const { S } = this;
    S[At.was] = S[At.value]!;
    S[At.octavesWas] = S[At.octaves]!;
    S[At.value] = value;
    if (this.byRatio) S[At.octaves] = log2(value);
    S[At.slope] = (value - S[At.was]!) / n;
  }

  /** Stands at a value at once. */
  jump(value: number): void {
    const { S } = this;
    S[At.value] = S[At.was] = S[At.target] = value;
    S[At.octaves] = S[At.octavesWas] = S[At.targetOctaves] = this.byRatio ? log2(value) : NaN;
    S[At.slope] = S[At.left] = 0;
  }

  /** Goes where another one goes, or stands: from where it is itself, so that whoever listens hears of it. */
  follow(other: Param): void {
    const { S } = this;
    const [value, octaves] = [S[At.value]!, S[At.octaves]!];
    S.set(other.S);
    if (S[At.left] === 0) {
      S[At.target] = S[At.value]!;
      S[At.targetOctaves] = S[At.octaves]!;
      S[At.left] = 1;
    }
    S[At.value] = value;
    S[At.octaves] = octaves;
  }

  /** Takes the next step, over n samples. Says whether another will follow. */
  step(n: number): boolean {
    const { S } = this;
    const left = S[At.left]!;
    const was = S[At.value]!;
    S[At.was] = was;
    S[At.octavesWas] = S[At.octaves]!;
    if (left <= 0) {
      S[At.slope] = 0;
      return false;
    }
    if (left === 1) {
      S[At.value] = S[At.target]!;
      S[At.octaves] = S[At.targetOctaves]!;
    } else if (S[At.ratio]! > 0) {
      S[At.value] = was * S[At.ratio]!;
      S[At.octaves] = S[At.octaves]! + (S[At.targetOctaves]! - S[At.octaves]!) / left;
    } else {
      S[At.value] = was + (S[At.target]! - was) / left;
      if (this.byRatio) S[At.octaves] = log2(S[At.value]!);
    }
    S[At.left] = left - 1;
    S[At.slope] = (S[At.value]! - was) / n;
    return true;
  }
}
