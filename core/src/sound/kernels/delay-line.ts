/** A line of samples that can be read at any moment within its length. */
export class DelayLine {
  readonly samples: Float64Array;
  private readonly mask: number;

  /** @param longest most samples of delay that will be asked for */
  constructor(longest: number) {
    let length = 16;
    while (length < longest + 8) length *= 2;
    this.samples = new Float64Array(length);
    this.mask = length - 1;
  }

  write(now: number, value: number): void {
    this.samples[now & this.mask] = value;
  }

  at(now: number, delay: number): number {
    return this.samples[(now - delay) & this.mask]!;
  }

  /**
   * Between samples by a cubic through the four around. Source: Catmull and Rom's interpolating spline.
   * @param delay at least 2 samples
   */
  read(now: number, delay: number): number {
    const whole = Math.floor(delay);
    const t = delay - whole;
    const { samples, mask } = this;
    const at = now - whole;
    const a = samples[(at + 1) & mask]!;
    const b = samples[at & mask]!;
    const c = samples[(at - 1) & mask]!;
    const d = samples[(at - 2) & mask]!;
    return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
  }
}

/** A moving read point may not leap: it follows its goal at no more than half a sample a sample. */
export const creep = (now: number, goal: number): number => {
  const way = (goal - now) * 0.001;
  return now + (way > 0.5 ? 0.5 : way < -0.5 ? -0.5 : way > 1e-9 || way < -1e-9 ? way : goal - now);
};
