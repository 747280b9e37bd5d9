import { C4_HZ } from '../../../theory/pitch';
import { cosTurns, sinTurns } from '../../../theory/portable';
import { newRing, REACH } from '../../band-limit';
import { BLOCK, type KernelContext, Steadiness } from '../../kernel';
import { exp2Quick } from '../../quick';
import { Tuning } from '../tuning';

/** Peak of every waveform in V. */
export const PEAK = 5;
/** Highest frequency as a share of the sample rate. */
export const TOP = 0.49;
/** What the sync line carries while nothing starts anew; else how many samples ago, 0..1, it did. */
export const NO_SYNC = -1;
const TAU = 6.283185307179586;

export const enum At {
  phase,
  inc,
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
export const SETTLED = 2 * REACH + 1;

/**
 * Samples since a moving phase met a moving mark: `excess` is how far it is past it now, `rate` how fast they part, `bend`
 * how much faster than a sample ago, `curl` the second difference of the mark. Two rounds of Newton's method.
 */
export function crossing(excess: number, rate: number, bend: number, curl: number): number {
  let ago = excess / (rate - 0.5 * curl);
  for (let round = 0; round < 2; round++) {
    ago = excess / (rate - 0.5 * bend * ago + 0.5 * curl * (ago - 1));
  }
  return ago >= 0 && ago <= 1 ? ago : ago > 1 ? 1 : 0;
}

export function makeOscillator(context: KernelContext) {
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
  const mirror = syncKind === 'mirror';
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
  /** Share of a cycle that each sample of a stretch goes on by. */
  const steps = new Float64Array(BLOCK);

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
    mirror,
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
    steps,
    S,
    stillPitch,
    stillMod,
    tells,
  };
}
export type Oscillator = ReturnType<typeof makeOscillator>;

export function shape({ S, saw, pulse, triangle, noise }: Oscillator, p: number): number {
  if (saw) return 2 * p - 1;
  if (pulse) return S[At.high]! > 0 ? 1 : -1;
  if (triangle) return p < 0.5 ? 4 * p - 1 : 3 - 4 * p;
  return noise ? 0 : sinTurns(p);
}

export function slope({ saw, pulse, triangle, noise }: Oscillator, p: number): number {
  if (saw) return 2;
  if (pulse || noise) return 0;
  if (triangle) return p < 0.5 ? 4 : -4;
  return TAU * cosTurns(p);
}

/** Puts the last samples of a straight line back into the ring: what is yet to come out. */
export function fillRing({ S, ring }: Oscillator): void {
  const now = S[At.now]!;
  ring.fill(0);
  for (let ago = 0; ago < REACH; ago++)
    ring[(now - ago) & 63] = 2 * (S[At.phase]! - ago * S[At.inc]!) - 1;
  S[At.straight] = 0;
}

/**
 * Works out how far each sample of a stretch goes on, from the pitch and its modulation; `At.inc` is left at the step before
 * the first of them, or at the first when there was none before.
 */
export function fillSteps(o: Oscillator, from: number, to: number): void {
  const { S, pitch, mod, fm, hasFm, depth, tuning, base, steps } = o;
  const tune = tuning.was;
  const tuneSlope = tuning.slope;
  const fmBy = hasFm ? depth.value / 500 : 0;
  // Worked out here it is known to be a number: what a branch may take from outside would be made for the collector.
  const top = 1 * TOP;
  let last = NaN;
  let steady = 0;
  for (let i = from; i < to; i++) {
    const volts = pitch[i]! + mod[i]! + tune + tuneSlope * i;
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
    steps[i] = goal;
  }
  const before = S[At.inc]!;
  if (before !== before) S[At.inc] = steps[from]!;
}
