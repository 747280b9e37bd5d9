import { chordNotes, type ChordType } from '../../theory/chord';
import { C4_HZ } from '../../theory/pitch';
import { addStep, newRing, REACH } from '../band-limit';
import { type Kernel, kernelOf, type KernelContext } from '../kernel';
import { exp2 } from '../../theory/portable';
import { exp2Quick } from '../quick';
import { TOP } from './oscillator';
import { Tuning } from './tuning';

const PEAK = 5;

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
        base: C4_HZ / context.sampleRate,
      };
    },
    ({ own, phases, tuning, ring, clock, pitch, mod, out, ratios, weights, base }, from, to) => {
      const count = phases.length;
      if (from === 0) {
        tuning.update(64);
        retune(own, ratios, weights);
      }
      let now = clock[0]! | 0;
      let last = NaN;
      let inc = 0;
      for (let i = from; i < to; i++) {
        const volts = pitch[i]! + mod[i]! + tuning.was + tuning.slope * i;
        if (volts !== last) {
          last = volts;
          inc = base * exp2Quick(volts);
        }
        now = (now + 1) | 0;
        let sum = 0;
        for (let s = 0; s < count; s++) {
          let step = inc * ratios[s]!;
          if (!(step < TOP)) step = TOP;
          let p = phases[s]! + step;
          if (p >= 1) {
            p -= 1;
            addStep(ring, now, p / step, -2 * weights[s]!);
          }
          phases[s] = p;
          sum += weights[s]! * (2 * p - 1);
        }
        ring[now & 63] = ring[now & 63]! + sum;
        const ready = (now - REACH) & 63;
        out[i] = PEAK * ring[ready]!;
        ring[ready] = 0;
      }
      clock[0] = now;
    },
  );

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
