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
