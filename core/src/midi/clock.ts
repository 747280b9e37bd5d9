/** MIDI clocks in a quarter note. */
export const CLOCKS = 24;
/** A gap of more than this many seconds means that the clock had stopped: 20 bpm. */
const GAP = 60 / 20 / CLOCKS;

/**
 * Follows the tempo of a MIDI clock that jitters: from the median of the last quarter note's intervals, so that single
 * late clocks do not move it.
 */
export class ClockFollower {
  private readonly gaps: number[] = [];
  private last = NaN;

  /**
   * Takes a clock.
   * @param seconds when it came, by any clock that does not go back
   * @returns quarter notes a minute to a tenth, 20..400, or undefined as long as it cannot tell
   */
  tick(seconds: number): number | undefined {
    const gap = seconds - this.last;
    this.last = seconds;
    if (!(gap > 0)) return undefined;
    if (gap > GAP) {
      this.gaps.length = 0;
      return undefined;
    }
    this.gaps.push(gap);
    if (this.gaps.length > CLOCKS) this.gaps.shift();
    if (this.gaps.length < 8) return undefined;
    const sorted = [...this.gaps].sort((a, b) => a - b);
    // The mean of the middle half: steadier than the one in the middle, and as deaf to what sticks out.
    const middle = sorted.slice(sorted.length >> 2, sorted.length - (sorted.length >> 2));
    const mean = middle.reduce((sum, v) => sum + v, 0) / middle.length;
    return Math.min(400, Math.max(20, Math.round(600 / (CLOCKS * mean)) / 10));
  }
}

/** Seconds without a clock after which it counts as stopped. */
export const CLOCK_GONE = 0.5;
/** Shares of a tick's deviation that the clock's place and its period follow. */
const PLACE = 0.08;
const PERIOD = 0.0033;
/** Quarter notes of deviation that are left alone, share of the tempo that a correction takes at most, and its seconds. */
const CALM = 0.002;
const MOST = 0.03;
const CORRECTS = 2;

/**
 * Keeps a player in step with a clock that jitters: not only at its tempo but at its place, so that nothing drifts apart
 * however long it runs. The clock's place and period are smoothed over its ticks (an alpha-beta filter, the second share
 * half the square of the first), and the player's tempo leans by what it is off.
 */
export class ClockLock {
  private follower = new ClockFollower();
  private ticks = 0;
  private last = NaN;
  /** Seconds at which the smoothed clock stood at its last tick, and from one tick to the next. */
  private smooth = NaN;
  private period = NaN;
  private off = NaN;

  /** Quarter notes a minute; undefined as long as it cannot tell. */
  get tempo(): number | undefined {
    return Number.isNaN(this.period) ? undefined : 60 / this.period / CLOCKS;
  }

  /** The clock begins at its first quarter note. */
  start(): void {
    this.follower = new ClockFollower();
    this.ticks = 0;
    this.last = this.smooth = this.period = this.off = NaN;
  }

  /** @param seconds when it came, by any clock that does not go back */
  tick(seconds: number): void {
    if (seconds - this.last > CLOCK_GONE) {
      // It begins anew, from where it was left.
      this.follower = new ClockFollower();
      this.period = this.off = NaN;
    }
    this.last = seconds;
    this.ticks++;
    const first = this.follower.tick(seconds);
    if (Number.isNaN(this.period)) {
      this.smooth = seconds;
      if (first !== undefined) this.period = 60 / first / CLOCKS;
      return;
    }
    const due = this.smooth + this.period;
    const late = seconds - due;
    this.smooth = due + PLACE * late;
    this.period += PERIOD * late;
  }

  /** Whether it has stopped: nothing came for half a second. */
  goneAt = (seconds: number): boolean => !(seconds - this.last < CLOCK_GONE);

  /** Quarter notes since its start; undefined as long as it cannot tell. */
  beatAt(seconds: number): number | undefined {
    // Its first clock stands at the beginning.
    return Number.isNaN(this.period)
      ? undefined
      : (this.ticks - 1 + (seconds - this.smooth) / this.period) / CLOCKS;
  }

  /**
   * Tempo at which a player comes into step, within 3 % of the clock's own.
   * @param beat where the player is; whole quarter notes apart count as in step
   * @returns undefined while the clock is gone, or cannot be told yet
   */
  steer(beat: number, seconds: number): number | undefined {
    const [clock, tempo] = [this.beatAt(seconds), this.tempo];
    if (clock === undefined || tempo === undefined || this.goneAt(seconds)) return undefined;
    const apart = clock - beat - Math.round(clock - beat);
    this.off = Number.isNaN(this.off) ? apart : this.off + 0.2 * (apart - this.off);
    if (Math.abs(this.off) < CALM) return tempo;
    const lean = (this.off * 60) / CORRECTS;
    return tempo + Math.min(MOST * tempo, Math.max(-MOST * tempo, lean));
  }
}
