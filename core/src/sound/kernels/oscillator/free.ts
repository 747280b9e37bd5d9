import { sinTurns } from '../../../theory/portable';
import { addCorner, addStep, REACH } from '../../band-limit';
import { At, crossing, fillSteps, NO_SYNC, type Oscillator, PEAK } from './parts';

// One loop for each waveform of an oscillator that follows nobody: a step a cycle, two corners, two steps, nothing.

/** A stretch of a saw, or of a sine, whose pitch moves. */
export function runSawOrSine(o: Oscillator, from: number, to: number): void {
  const { S, ring, out, syncOut, steps } = o;
  const peak: number = PEAK;
  const late: number = REACH;
  const none: number = NO_SYNC;
  fillSteps(o, from, to);
  let inc = S[At.inc]!;
  let phase = S[At.phase]!;
  let now = S[At.now]! | 0;
  const { saw } = o;
  for (let i = from; i < to; i++) {
    const bend = steps[i]! - inc;
    inc = steps[i]!;
    now = (now + 1) | 0;
    phase += inc - 0.5 * bend;
    let wrapped = none;
    if (phase >= 1) {
      phase -= 1;
      wrapped = bend === 0 ? phase / inc : crossing(phase, inc, bend, 0);
      if (saw) addStep(ring, now, wrapped, -2);
    }
    syncOut[i] = wrapped;
    const at = now & 63;
    ring[at] = ring[at]! + (saw ? 2 * phase - 1 : sinTurns(phase));
    const ready = (now - late) & 63;
    out[i] = peak * ring[ready]!;
    ring[ready] = 0;
  }
  S[At.inc] = inc;
  S[At.phase] = phase;
  S[At.now] = S[At.moved] = now;
}

/** A stretch of a triangle. */
export function runTriangle(o: Oscillator, from: number, to: number): void {
  const { S, ring, out, syncOut, steps } = o;
  const peak: number = PEAK;
  const late: number = REACH;
  const none: number = NO_SYNC;
  fillSteps(o, from, to);
  let inc = S[At.inc]!;
  let phase = S[At.phase]!;
  let now = S[At.now]! | 0;
  for (let i = from; i < to; i++) {
    const bend = steps[i]! - inc;
    inc = steps[i]!;
    now = (now + 1) | 0;
    const before = phase;
    phase += inc - 0.5 * bend;
    let wrapped = none;
    if (before < 0.5 && phase >= 0.5) {
      const ago = crossing(phase - 0.5, inc, bend, 0);
      addCorner(ring, now, ago, -8 * (inc - bend * ago));
    }
    if (phase >= 1) {
      phase -= 1;
      wrapped = bend === 0 ? phase / inc : crossing(phase, inc, bend, 0);
      addCorner(ring, now, wrapped, 8 * (inc - bend * wrapped));
      if (phase >= 0.5) {
        const ago = crossing(phase - 0.5, inc, bend, 0);
        addCorner(ring, now, ago, -8 * (inc - bend * ago));
      }
    }
    syncOut[i] = wrapped;
    const at = now & 63;
    ring[at] = ring[at]! + (phase < 0.5 ? 4 * phase - 1 : 3 - 4 * phase);
    const ready = (now - late) & 63;
    out[i] = peak * ring[ready]!;
    ring[ready] = 0;
  }
  S[At.inc] = inc;
  S[At.phase] = phase;
  S[At.now] = S[At.moved] = now;
}

/** A stretch of a pulse, whose width moves in lines and curves too. */
export function runPulse(o: Oscillator, from: number, to: number): void {
  const { S, ring, out, syncOut, steps } = o;
  const peak: number = PEAK;
  const late: number = REACH;
  const none: number = NO_SYNC;
  fillSteps(o, from, to);
  let inc = S[At.inc]!;
  let phase = S[At.phase]!;
  let now = S[At.now]! | 0;
  const { width, widthIn } = o;
  const wide = width.was / 100;
  const wideSlope = width.slope / 100;
  let high = S[At.high]!;
  let duty = S[At.duty]!;
  let dutyBefore = S[At.dutyBefore]!;
  for (let i = from; i < to; i++) {
    const bend = steps[i]! - inc;
    inc = steps[i]!;
    now = (now + 1) | 0;
    phase += inc - 0.5 * bend;
    let wrapped = none;
    const long = dutyBefore;
    dutyBefore = duty;
    duty = wide + wideSlope * i + 0.1 * widthIn[i]!;
    duty = duty < 0 ? 0 : duty > 1 ? 1 : duty;
    if (high > 0 && phase >= duty && duty < 1) {
      const moved = duty - dutyBefore;
      const curl = duty - 2 * dutyBefore + long;
      const ago = inc > moved ? crossing(phase - duty, inc - moved, bend, curl) : 0;
      addStep(ring, now, ago, -2);
      high = 0;
    } else if (phase < duty && !(high > 0)) {
      // The width has overtaken the phase: what compares them goes up again.
      const moved = duty - dutyBefore;
      const curl = duty - 2 * dutyBefore + long;
      const ago = moved > inc ? crossing(phase - duty, inc - moved, bend, curl) : 0;
      addStep(ring, now, ago, 2);
      high = 1;
    }
    if (phase >= 1) {
      phase -= 1;
      wrapped = bend === 0 ? phase / inc : crossing(phase, inc, bend, 0);
      if (duty > 0) {
        if (!(high > 0)) addStep(ring, now, wrapped, 2);
        high = 1;
        if (phase >= duty && duty < 1) {
          addStep(ring, now, crossing(phase - duty, inc, bend, 0), -2);
          high = 0;
        }
      }
    }
    syncOut[i] = wrapped;
    const at = now & 63;
    ring[at] = ring[at]! + (high > 0 ? 1 : -1);
    const ready = (now - late) & 63;
    out[i] = peak * ring[ready]!;
    ring[ready] = 0;
  }
  S[At.inc] = inc;
  S[At.phase] = phase;
  S[At.now] = S[At.moved] = now;
  S[At.high] = high;
  S[At.dutyLong] = dutyBefore;
  S[At.dutyBefore] = dutyBefore;
  S[At.duty] = duty;
}
