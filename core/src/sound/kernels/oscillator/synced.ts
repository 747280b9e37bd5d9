import { addCorner, addStep, REACH } from '../../band-limit';
import { At, crossing, fillSteps, NO_SYNC, type Oscillator, PEAK, shape, slope } from './parts';

/**
 * Moves the cycle on by `delta` of it, ending `endAgo` samples ago, at a rate that has risen by `bend` since a sample
 * ago; marks edges and corners on the way. Says how long ago a new cycle began, or NO_SYNC.
 */
function advance(o: Oscillator, delta: number, endAgo: number, rate: number, bend: number): number {
  const { S, ring, saw, pulse, triangle } = o;
  const now = S[At.now]!;
  const duty = S[At.duty]!;
  let to = S[At.phase]! + delta;
  let wrapped = NO_SYNC;
  if (triangle && S[At.phase]! < 0.5 && to >= 0.5) {
    const ago = endAgo + crossing(to - 0.5, rate, bend, 0);
    addCorner(ring, now, Math.min(1, ago), -8 * (rate - bend * ago));
  }
  if (pulse && S[At.high]! > 0 && to >= duty && duty < 1) {
    const moved = duty - S[At.dutyBefore]!;
    const curl = duty - 2 * S[At.dutyBefore]! + S[At.dutyLong]!;
    const ago = rate > moved ? crossing(to - duty, rate - moved, bend, curl) : 0;
    addStep(ring, now, Math.min(1, endAgo + ago), -2);
    S[At.high] = 0;
  } else if (pulse && !(S[At.high]! > 0) && to < duty) {
    // The width has overtaken the phase: what compares them goes up again.
    const moved = duty - S[At.dutyBefore]!;
    const curl = duty - 2 * S[At.dutyBefore]! + S[At.dutyLong]!;
    const ago = moved > rate ? crossing(to - duty, rate - moved, bend, curl) : 0;
    addStep(ring, now, Math.min(1, endAgo + ago), 2);
    S[At.high] = 1;
  }
  if (to >= 1) {
    to -= 1;
    wrapped = Math.min(1, endAgo + crossing(to, rate, bend, 0));
    if (saw) addStep(ring, now, wrapped, -2);
    else if (triangle) {
      addCorner(ring, now, wrapped, 8 * (rate - bend * wrapped));
      if (to >= 0.5) {
        const ago = endAgo + crossing(to - 0.5, rate, bend, 0);
        addCorner(ring, now, Math.min(1, ago), -8 * (rate - bend * ago));
      }
    } else if (pulse && duty > 0) {
      if (!(S[At.high]! > 0)) addStep(ring, now, wrapped, 2);
      S[At.high] = 1;
      if (to >= duty && duty < 1) {
        addStep(ring, now, Math.min(1, endAgo + crossing(to - duty, rate, bend, 0)), -2);
        S[At.high] = 0;
      }
    }
  }
  S[At.phase] = to;
  return wrapped;
}

/** Where a cycle that is mirrored goes on: triangles and sines at the same height, the other way. */
function mirrored({ S, triangle, saw, pulse }: Oscillator): number {
  const p = S[At.phase]!;
  if (triangle || saw || pulse) return p > 0 ? 1 - p : 0;
  return p <= 0.5 ? 0.5 - p : 1.5 - p;
}

/** Takes the cycle to another phase, `ago` samples before now. */
function leap(o: Oscillator, to: number, ago: number, rate: number): void {
  const { S, ring } = o;
  const before = S[At.phase]!;
  const valueBefore = shape(o, before);
  const slopeBefore = slope(o, before);
  S[At.phase] = to;
  S[At.high] = to < S[At.duty]! ? 1 : 0;
  if (o.noise) return;
  addStep(ring, S[At.now]!, ago, shape(o, to) - valueBefore);
  const bend = (slope(o, to) - slopeBefore) * rate;
  if (bend !== 0) addCorner(ring, S[At.now]!, ago, bend);
}

function synchronise(o: Oscillator, ago: number, inc: number, bend: number): number {
  const { S, soft, mirror, softness } = o;
  const after = inc * ago - 0.5 * bend * ago * ago;
  const whole = inc - 0.5 * bend;
  const wrapped = advance(o, whole - after, ago, inc, bend);
  const starts = !soft || S[At.phase]! >= 1 - softness.value / 100;
  if (starts) leap(o, mirror ? mirrored(o) : 0, ago, inc - bend * ago);
  const later = after > 0 ? advance(o, after, 0, inc, bend) : NO_SYNC;
  return starts && !mirror ? ago : Math.max(wrapped, later);
}

/** A stretch of an oscillator that follows a master, or of one that is noise. */
export function runSynced(o: Oscillator, from: number, to: number): void {
  const { S, ring, out, syncIn, syncOut, synced, pulse, noise, random, steps, width, widthIn } = o;
  const wide = width.was / 100;
  const wideSlope = width.slope / 100;
  const peak: number = PEAK;
  const late: number = REACH;
  fillSteps(o, from, to);
  let inc = S[At.inc]!;
  let now = S[At.now]! | 0;
  for (let i = from; i < to; i++) {
    const bend = steps[i]! - inc;
    inc = steps[i]!;
    now = (now + 1) | 0;
    S[At.now] = now;
    if (pulse) {
      S[At.dutyLong] = S[At.dutyBefore]!;
      S[At.dutyBefore] = S[At.duty]!;
      const d = wide + wideSlope * i + 0.1 * widthIn[i]!;
      S[At.duty] = d < 0 ? 0 : d > 1 ? 1 : d;
    }
    const sync = synced && syncIn[i]! <= 1 ? syncIn[i]! : NO_SYNC;
    syncOut[i] =
      sync >= 0 ? synchronise(o, sync, inc, bend) : advance(o, inc - 0.5 * bend, 0, inc, bend);
    const at = now & 63;
    ring[at] = ring[at]! + (noise ? 2 * random.next() - 1 : shape(o, S[At.phase]!));
    const ready = (now - late) & 63;
    out[i] = peak * ring[ready]!;
    ring[ready] = 0;
  }
  S[At.inc] = inc;
  S[At.now] = S[At.moved] = now;
}
