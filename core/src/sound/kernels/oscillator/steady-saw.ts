import { addEvent, event, REACH } from '../../band-limit';
import { exp2Quick } from '../../quick';
import { At, crossing, fillRing, NO_SYNC, type Oscillator, PEAK, SETTLED, TOP } from './parts';

/** Whether nothing moves the pitch of a saw in a stretch. */
export const isSteadySaw = (o: Oscillator, from: number, to: number): boolean =>
  o.saw &&
  !o.synced &&
  !(o.hasFm && o.depth.value !== 0) &&
  o.tuning.slope === 0 &&
  o.stillPitch.over(from, to) &&
  o.stillMod.over(from, to);

/** A stretch of a saw whose pitch stands still. Far from its edges it is a straight line, and nothing else is looked at. */
export function runSteadySaw(o: Oscillator, from: number, to: number): void {
  const { S, pitch, mod, out: y, syncOut: started, tuning, base, ring: line, tells } = o;
  const tune = tuning.was;
  const peak: number = PEAK;
  const late: number = REACH;
  const none: number = NO_SYNC;
  const settled: number = SETTLED;
  // Worked out here it is known to be a number: what a branch may take from outside would be made for the collector.
  const top = 1 * TOP;
  const inc = S[At.inc]!;
  let phase = S[At.phase]!;
  let now = S[At.now]! | 0;
  // Nothing moves the pitch: only the cycle goes on.
  const volts = pitch[from]! + mod[from]! + tune;
  let goal = inc;
  if (volts !== S[At.volts]) {
    S[At.volts] = volts;
    const wanted = base * exp2Quick(volts);
    goal = wanted < top ? wanted : top;
  }
  let step = inc === inc ? 0.5 * (inc + goal) : goal;
  let moved = S[At.moved]! | 0;
  if (goal !== inc) {
    if (S[At.straight]! > 0) fillRing(o);
    moved = now;
  }
  if (tells) started.fill(none, from, to);
  S[At.inc] = goal;
  let i = from;
  while (i < to) {
    let p = phase + step;
    let left = settled - ((now - moved) | 0);
    if (left > 0 || step !== goal) {
      // Up to the end of the cycle nothing is called: the arrays need not be looked up anew for each sample.
      while (p < 1) {
        now = (now + 1) | 0;
        phase = p;
        p += goal;
        step = goal;
        const at = now & 63;
        line[at] = line[at]! + 2 * phase - 1;
        const ready = (now - late) & 63;
        y[i] = peak * line[ready]!;
        line[ready] = 0;
        if (++i === to || --left === 0) break;
      }
    } else if (p < 1) {
      // Far from any edge what comes out is the line as it was a little ago: the ring is not needed.
      const rest = to - i;
      const upTo = (1 - phase) / goal;
      // At the very end of the cycle one sample more or less is a matter of rounding: one there is.
      let n = upTo < rest ? upTo | 0 : rest;
      if (phase + n * goal >= 1) n--;
      if (n < 1) n = 1;
      let volts = peak * (2 * (phase - (late - 1) * goal) - 1);
      const rise = 2 * peak * goal;
      const twice = rise + rise;
      const end = i + n;
      for (; i + 1 < end; i += 2) {
        y[i] = volts;
        y[i + 1] = volts + rise;
        volts += twice;
      }
      if (i < end) y[i++] = volts;
      phase += n * goal;
      p = phase + goal;
      now = (now + n) | 0;
      S[At.straight] = 1;
    }
    if (i === to || p < 1) continue;
    if (S[At.straight]! > 0) {
      S[At.now] = now;
      S[At.phase] = phase;
      fillRing(o);
    }
    now = (now + 1) | 0;
    phase = p - 1;
    const wrapped = step === goal ? phase / goal : crossing(phase, goal, 2 * (goal - step), 0);
    event[0] = wrapped;
    event[1] = -2;
    addEvent(line, now);
    if (tells) started[i] = wrapped;
    const at = now & 63;
    line[at] = line[at]! + 2 * phase - 1;
    const ready = (now - late) & 63;
    y[i] = peak * line[ready]!;
    line[ready] = 0;
    step = goal;
    moved = now;
    i++;
  }
  S[At.now] = now;
  S[At.phase] = phase;
  S[At.moved] = moved;
}
