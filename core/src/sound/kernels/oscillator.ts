import { C4_HZ } from '../../theory/pitch';
import { addCorner, addEvent, addStep, event, newRing, REACH } from '../band-limit';
import { kernelOf, type KernelContext, Steadiness } from '../kernel';
import { cosTurns, sinTurns } from '../../theory/portable';
import { exp2Quick } from '../quick';
import { Tuning } from './tuning';

/** Peak of every waveform in V. */
const PEAK = 5;
/** Highest frequency as a share of the sample rate. */
export const TOP = 0.49;
/** What the sync line carries while nothing starts anew; else how many samples ago, 0..1, it did. */
export const NO_SYNC = -1;
const TAU = 6.283185307179586;

const enum At {
  phase,
  inc,
  incBefore,
  duty,
  dutyBefore,
  dutyLong,
  high,
  now,
  /** Pitch in V of the last steady stretch. */
  volts,
  /** Number of the last sample at which an edge came, or the pitch moved. */
  moved,
  /** 1 while the ring is left alone: it would hold nothing but the last samples of a straight line. */
  straight,
}

/** Samples after an edge in which the ring still holds something of it. */
const SETTLED = 2 * REACH + 1;

/**
 * Samples since a moving phase met a moving mark: `excess` is how far it is past it now, `rate` how fast they part, `bend`
 * how much faster than a sample ago, `curl` the second difference of the mark. Two rounds of Newton's method.
 */
function crossing(excess: number, rate: number, bend: number, curl: number): number {
  let ago = excess / (rate - 0.5 * curl);
  for (let round = 0; round < 2; round++) {
    ago = excess / (rate - 0.5 * bend * ago + 0.5 * curl * (ago - 1));
  }
  return ago >= 0 && ago <= 1 ? ago : ago > 1 ? 1 : 0;
}

function makeOscillator(context: KernelContext) {
  const wave = context.choice('wave');
  const pitch = context.input('pitch');
  const mod = context.input('mod');
  const fm = context.input('fm');
  const hasFm = context.connected('fm');
  const widthIn = context.input('width');
  const syncIn = context.input('sync');
  const out = context.output('out');
  const syncOut = context.output('sync');
  const syncKind = context.choice('sync');
  const synced = syncKind !== 'off' && context.connected('sync');
  const soft = syncKind === 'soft';
  const softness = context.number('soft');
  const width = context.number('width');
  const depth = context.number('fm-depth');
  const tuning = new Tuning(context);
  const base = C4_HZ / context.sampleRate;
  const ring = newRing();
  const saw = wave === 'saw';
  const pulse = wave === 'pulse';
  const triangle = wave === 'triangle';
  const noise = wave === 'noise';
  const { random } = context;

  const S = new Float64Array(11);
  S[At.volts] = NaN;
  const stillPitch = new Steadiness(pitch, !context.connected('pitch'));
  const stillMod = new Steadiness(mod, !context.connected('mod'));
  const tells = context.wanted('sync');
  S[At.duty] = S[At.dutyBefore] = S[At.dutyLong] = width.value / 100;
  S[At.high] = S[At.duty]! > 0 ? 1 : 0;
  S[At.inc] = NaN;

  return {
    state: { S, ring, tuning: tuning.state },
    pitch,
    mod,
    fm,
    hasFm,
    widthIn,
    syncIn,
    out,
    syncOut,
    synced,
    soft,
    softness,
    width,
    depth,
    tuning,
    base,
    ring,
    saw,
    pulse,
    triangle,
    noise,
    random,
    S,
    stillPitch,
    stillMod,
    tells,
  };
}
type Oscillator = ReturnType<typeof makeOscillator>;

function shape({ S, saw, pulse, triangle, noise }: Oscillator, p: number): number {
  if (saw) return 2 * p - 1;
  if (pulse) return S[At.high]! > 0 ? 1 : -1;
  if (triangle) return p < 0.5 ? 4 * p - 1 : 3 - 4 * p;
  return noise ? 0 : sinTurns(p);
}

function slope({ saw, pulse, triangle, noise }: Oscillator, p: number): number {
  if (saw) return 2;
  if (pulse || noise) return 0;
  if (triangle) return p < 0.5 ? 4 : -4;
  return TAU * cosTurns(p);
}

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

/** Starts the cycle anew, `ago` samples before now. */
function restart(o: Oscillator, ago: number, rate: number): void {
  const { S, ring } = o;
  const before = S[At.phase]!;
  const valueBefore = shape(o, before);
  const slopeBefore = slope(o, before);
  S[At.phase] = 0;
  S[At.high] = S[At.duty]! > 0 ? 1 : 0;
  if (o.noise) return;
  addStep(ring, S[At.now]!, ago, shape(o, 0) - valueBefore);
  const bend = (slope(o, 0) - slopeBefore) * rate;
  if (bend !== 0) addCorner(ring, S[At.now]!, ago, bend);
}

function synchronise(o: Oscillator, ago: number, inc: number, bend: number): number {
  const { S, soft, softness } = o;
  const after = inc * ago - 0.5 * bend * ago * ago;
  const whole = inc - 0.5 * bend;
  const wrapped = advance(o, whole - after, ago, inc, bend);
  const starts = !soft || S[At.phase]! >= 1 - softness.value / 100;
  if (starts) restart(o, ago, inc - bend * ago);
  const later = after > 0 ? advance(o, after, 0, inc, bend) : NO_SYNC;
  return starts ? ago : Math.max(wrapped, later);
}

/** Puts the last samples of a straight line back into the ring: what is yet to come out. */
function fillRing({ S, ring }: Oscillator): void {
  const now = S[At.now]!;
  ring.fill(0);
  for (let ago = 0; ago < REACH; ago++)
    ring[(now - ago) & 63] = 2 * (S[At.phase]! - ago * S[At.inc]!) - 1;
  S[At.straight] = 0;
}

/**
 * Oscillator with band-limited edges and corners; late by REACH samples, all waveforms alike. Pitch and width move in
 * straight lines and curves between samples, so that edges stay where they belong under modulation at audio rate. Hard
 * sync starts the cycle anew at the fraction of a sample at which the master did.
 */
export const oscillator = kernelOf(makeOscillator, (parts, from, to) => {
  const {
    pitch,
    mod,
    fm,
    hasFm,
    widthIn,
    syncIn,
    out,
    syncOut,
    synced,
    width,
    depth,
    tuning,
    base,
    ring,
    saw,
    pulse,
    triangle,
    noise,
    random,
    S,
    stillPitch,
    stillMod,
    tells,
  } = parts;
  if (from === 0) tuning.update(64);
  const tune = tuning.was;
  const tuneSlope = tuning.slope;
  const wide = width.was / 100;
  const wideSlope = width.slope / 100;
  const fmBy = hasFm ? depth.value / 500 : 0;
  const volt = pitch;
  const bendIn = mod;
  const line = ring;
  const y = out;
  const started = syncOut;
  const plain = saw && !synced;
  const peak: number = PEAK;
  const late: number = REACH;
  const none: number = NO_SYNC;
  const settled: number = SETTLED;
  // Worked out here it is known to be a number: what a branch may take from outside would be made for the collector.
  const top = 1 * TOP;
  let inc = S[At.inc]!;
  let phase = S[At.phase]!;
  let now = S[At.now]! | 0;
  let last = NaN;
  let steady = 0;
  if (
    plain &&
    fmBy === 0 &&
    tuneSlope === 0 &&
    stillPitch.over(from, to) &&
    stillMod.over(from, to)
  ) {
    // Nothing moves the pitch: only the cycle goes on.
    const volts = volt[from]! + bendIn[from]! + tune;
    let goal = inc;
    if (volts !== S[At.volts]) {
      S[At.volts] = volts;
      const wanted = base * exp2Quick(volts);
      goal = wanted < top ? wanted : top;
    }
    let step = inc === inc ? 0.5 * (inc + goal) : goal;
    let moved = S[At.moved]! | 0;
    if (goal !== inc) {
      if (S[At.straight]! > 0) fillRing(parts);
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
        fillRing(parts);
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
    return;
  }
  if (S[At.straight]! > 0) fillRing(parts);
  S[At.volts] = NaN;
  const free = !synced && !noise;
  let high = S[At.high]!;
  let duty = S[At.duty]!;
  let dutyBefore = S[At.dutyBefore]!;
  for (let i = from; i < to; i++) {
    const volts = volt[i]! + bendIn[i]! + tune + tuneSlope * i;
    if (volts !== last) {
      last = volts;
      const wanted = base * exp2Quick(volts);
      steady = wanted < top ? wanted : top;
    }
    let goal = steady;
    if (fmBy !== 0) {
      goal *= 1 + fmBy * fm[i]!;
      goal = goal > top ? top : goal > 0 ? goal : 0;
    }
    if (inc !== inc) inc = goal;
    const bend = goal - inc;
    inc = goal;
    now = (now + 1) | 0;
    let wrapped = none;
    let value: number;
    if (free) {
      const before = phase;
      phase += inc - 0.5 * bend;
      const long = dutyBefore;
      if (pulse) {
        dutyBefore = duty;
        duty = wide + wideSlope * i + 0.1 * widthIn[i]!;
        duty = duty < 0 ? 0 : duty > 1 ? 1 : duty;
        if (high > 0 && phase >= duty && duty < 1) {
          const moved = duty - dutyBefore;
          const curl = duty - 2 * dutyBefore + long;
          const ago = inc > moved ? crossing(phase - duty, inc - moved, bend, curl) : 0;
          addStep(line, now, ago, -2);
          high = 0;
        }
      } else if (triangle && before < 0.5 && phase >= 0.5) {
        const ago = crossing(phase - 0.5, inc, bend, 0);
        addCorner(line, now, ago, -8 * (inc - bend * ago));
      }
      if (phase >= 1) {
        phase -= 1;
        wrapped = bend === 0 ? phase / inc : crossing(phase, inc, bend, 0);
        if (saw) addStep(line, now, wrapped, -2);
        else if (triangle) {
          addCorner(line, now, wrapped, 8 * (inc - bend * wrapped));
          if (phase >= 0.5) {
            const ago = crossing(phase - 0.5, inc, bend, 0);
            addCorner(line, now, ago, -8 * (inc - bend * ago));
          }
        } else if (pulse && duty > 0) {
          if (!(high > 0)) addStep(line, now, wrapped, 2);
          high = 1;
          if (phase >= duty && duty < 1) {
            addStep(line, now, crossing(phase - duty, inc, bend, 0), -2);
            high = 0;
          }
        }
      }
      value = saw
        ? 2 * phase - 1
        : triangle
          ? phase < 0.5
            ? 4 * phase - 1
            : 3 - 4 * phase
          : pulse
            ? high > 0
              ? 1
              : -1
            : sinTurns(phase);
    } else {
      S[At.now] = now;
      if (pulse) {
        S[At.dutyLong] = S[At.dutyBefore]!;
        S[At.dutyBefore] = S[At.duty]!;
        const d = wide + wideSlope * i + 0.1 * widthIn[i]!;
        S[At.duty] = d < 0 ? 0 : d > 1 ? 1 : d;
      }
      const sync = synced && syncIn[i]! <= 1 ? syncIn[i]! : NO_SYNC;
      wrapped =
        sync >= 0
          ? synchronise(parts, sync, inc, bend)
          : advance(parts, inc - 0.5 * bend, 0, inc, bend);
      value = noise ? 2 * random.next() - 1 : shape(parts, S[At.phase]!);
    }
    started[i] = wrapped;
    const at = now & 63;
    line[at] = line[at]! + value;
    const ready = (now - late) & 63;
    y[i] = peak * line[ready]!;
    line[ready] = 0;
  }
  S[At.inc] = inc;
  S[At.now] = S[At.moved] = now;
  if (!free) return;
  S[At.phase] = phase;
  S[At.high] = high;
  S[At.dutyLong] = dutyBefore;
  S[At.dutyBefore] = dutyBefore;
  S[At.duty] = duty;
});
