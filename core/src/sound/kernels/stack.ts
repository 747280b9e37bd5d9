import { chordNotes, type ChordType } from '../../theory/chord';
import { C4_HZ } from '../../theory/pitch';
import { addStep, newRing, REACH } from '../band-limit';
import { type Kernel, kernelOf, type KernelContext } from '../kernel';
import { exp2 } from '../../theory/portable';
import { exp2Quick } from '../quick';
import { TOP } from './oscillator';
import { Tuning } from './tuning';

const PEAK = 5;
/** Samples that are worked out at once: an edge corrects 24 before it and 23 after, and a ring has 64. */
const RUN = 16;

/**
 * Several saws from one pitch, each at its ratio to it and with its weight; their edges share one ring of corrections.
 * @param make their own parts; `phases` is where their cycles begin, 0..1
 * @param retune fills ratios and weights once a block, where they have changed
 */
const stack = <P extends { phases: Float64Array }>(
  make: (context: KernelContext) => P,
  retune: (own: P, ratios: Float64Array, weights: Float64Array) => void,
): ((context: KernelContext) => Kernel) =>
  kernelOf(
    (context) => {
      const own = make(context);
      const { phases } = own;
      const tuning = new Tuning(context);
      const ring = newRing();
      const clock = new Float64Array(1);
      return {
        state: { phases, ring, clock, tuning: tuning.state },
        own,
        phases,
        tuning,
        ring,
        clock,
        pitch: context.input('pitch'),
        mod: context.input('mod'),
        out: context.output('out'),
        ratios: new Float64Array(phases.length),
        weights: new Float64Array(phases.length),
        incs: new Float64Array(RUN),
        sums: new Float64Array(RUN),
        base: C4_HZ / context.sampleRate,
      };
    },
    (
      { own, phases, tuning, ring, clock, pitch, mod, out, ratios, weights, incs, sums, base },
      from,
      to,
    ) => {
      if (from === 0) {
        tuning.update(64);
        retune(own, ratios, weights);
      }
      let now = clock[0]! | 0;
      let last = NaN;
      let inc = 0;
      for (let begin = from; begin < to; begin += RUN) {
        const n = begin + RUN < to ? RUN : to - begin;
        let steady = true;
        for (let k = 0; k < n; k++) {
          const volts =
            pitch[begin + k]! + mod[begin + k]! + tuning.was + tuning.slope * (begin + k);
          if (volts !== last) {
            last = volts;
            inc = base * exp2Quick(volts);
            steady = k === 0;
          }
          incs[k] = inc;
        }
        if (steady) runSteady(phases, ratios, weights, ring, now, inc, sums, n);
        else runMoved(phases, ratios, weights, ring, now, incs, sums, n);
        for (let k = 0; k < n; k++) {
          now = (now + 1) | 0;
          const ready = (now - REACH) & 63;
          ring[now & 63] = ring[now & 63]! + sums[k]!;
          out[begin + k] = PEAK * ring[ready]!;
          ring[ready] = 0;
        }
      }
      clock[0] = now;
    },
  );

/** A run in which the pitch moves: saw by saw, each sample with its own step. */
function runMoved(
  phases: Float64Array,
  ratios: Float64Array,
  weights: Float64Array,
  ring: Float64Array,
  now: number,
  incs: Float64Array,
  sums: Float64Array,
  n: number,
): void {
  sums.fill(0);
  for (let s = 0; s < phases.length; s++) {
    const ratio = ratios[s]!;
    const weight = weights[s]!;
    let p = phases[s]!;
    for (let k = 0; k < n; k++) {
      let step = incs[k]! * ratio;
      if (!(step < TOP)) step = TOP;
      p += step;
      if (p >= 1) {
        p -= 1;
        addStep(ring, now + k + 1, p / step, -2 * weight);
      }
      sums[k] = sums[k]! + weight * (2 * p - 1);
    }
    phases[s] = p;
  }
}

/** A run at one pitch: between their edges all saws together are one straight line. */
function runSteady(
  phases: Float64Array,
  ratios: Float64Array,
  weights: Float64Array,
  ring: Float64Array,
  now: number,
  inc: number,
  sums: Float64Array,
  n: number,
): void {
  sums.fill(0);
  let sum = 0;
  let rise = 0;
  for (let s = 0; s < phases.length; s++) {
    const weight = weights[s]!;
    let step = inc * ratios[s]!;
    if (!(step < TOP)) step = TOP;
    let p = phases[s]!;
    sum += weight * (2 * p - 1);
    rise += 2 * weight * step;
    let left = n;
    while (p + left * step >= 1) {
      // At the very end of the cycle one sample more or less is a matter of rounding.
      let k = Math.ceil((1 - p) / step);
      if (k > left) k = left;
      p += k * step - 1;
      if (p < 0) p = 0;
      addStep(ring, now + n - left + k, p / step, -2 * weight);
      sums[n - left + k - 1] = sums[n - left + k - 1]! - 2 * weight;
      left -= k;
    }
    phases[s] = p + left * step;
  }
  for (let k = 0; k < n; k++) {
    sum += rise + sums[k]!;
    sums[k] = sum;
  }
}

/** Places of the seven saws as shares of the detuning. */
const PLACES = [0, -0.11, 0.11, -0.63, 0.63, -1, 1];

/** Seven saws around one pitch. */
export const sawStack = stack(
  (context) => ({
    detune: context.number('detune'),
    mix: context.number('mix'),
    phases: Float64Array.from(PLACES, () => context.random.next()),
  }),
  ({ detune, mix }, ratios, weights) => {
    const amount = mix.value / 100;
    for (let s = 0; s < PLACES.length; s++) {
      ratios[s] = s === 0 ? 1 : exp2Quick((PLACES[s]! * detune.value) / 1200);
      weights[s] = s === 0 ? 1 - 0.6 * amount : 0.45 * amount;
    }
  },
);

/** A chord from one pitch. A square is a saw and, half a cycle later, one turned over. */
export const chord = stack(
  (context) => {
    const type = context.choice('type') as ChordType;
    const count = chordNotes(type).length;
    const square = context.choice('wave') === 'square';
    const phases = new Float64Array(square ? 2 * count : count);
    for (let s = 0; s < phases.length; s++) phases[s] = s < count ? 0 : 0.5;
    /** The inversion that ratios were made for. */
    const turned = Float64Array.of(-1);
    return { type, count, phases, turned, inversion: context.number('inversion') };
  },
  ({ type, count, phases, turned, inversion }, ratios, weights) => {
    const wanted = Math.round(inversion.value);
    if (turned[0] === wanted) return;
    turned[0] = wanted;
    const steps = chordNotes(type, wanted);
    for (let s = 0; s < phases.length; s++) {
      ratios[s] = exp2(steps[s % count]! / 12);
      weights[s] = (s < count ? 1 : -1) / count;
    }
  },
);
