/** Ms by which a wall clock may drift from the page's own between two looks before that is a jump. */
const JUMP_MS = 5000;

/**
 * The time of day while a page lives, by the page's own clock: where the wall clock jumps, because somebody set it or the
 * device slept, it is left out until somebody says that it counts.
 */
export class SteadyClock {
  private wall: number;
  private own: number;
  private left = 0;

  /** @param wallClock ms since 1970; may jump  @param ownClock ms since some moment; never does */
  constructor(
    private readonly wallClock: () => number = () => Date.now(),
    private readonly ownClock: () => number = () => performance.now(),
  ) {
    [this.wall, this.own] = [wallClock(), ownClock()];
  }

  /** Ms by which the wall clock has jumped and that are left out; below 0 it was set back. */
  get jumped(): number {
    return this.left;
  }

  /** Ms since 1970, without jumps. */
  now(): number {
    const [wall, own] = [this.wallClock(), this.ownClock()];
    const drift = wall - this.wall - (own - this.own);
    if (Math.abs(drift) > JUMP_MS) this.left += drift;
    [this.wall, this.own] = [wall, own];
    return wall - this.left;
  }

  /** The jump was real time: the device slept. */
  count(): void {
    this.left = 0;
  }
}
