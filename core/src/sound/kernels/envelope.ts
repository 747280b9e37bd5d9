import type { Kernel, KernelContext } from '../kernel';
import { numberOf } from '../kernel';

const FULL = 5;
/** How far above full level the attack aims, as a share of full level. */
export const ATTACK_OVERSHOOT = 0.3;
/** A decay or release is over when this share of its way is left. */
export const SETTLED = 0.01;

/** Factor a sample by which an attack's distance to its aim shrinks, so that it meets full level after `seconds`. */
export const attackFactor = (seconds: number, sampleRate: number): number =>
  (ATTACK_OVERSHOOT / (1 + ATTACK_OVERSHOOT)) ** (1 / Math.max(1, seconds * sampleRate));

/** The same for a decay or release, which has 1 % of its way left after `seconds`. */
export const fallFactor = (seconds: number, sampleRate: number): number =>
  SETTLED ** (1 / Math.max(1, seconds * sampleRate));

/**
 * ADSR with exponential segments. The attack heads for 1.3 of full level and ends at full, decay and release head for
 * their goal and are within 1 % of the way after their time. A trigger starts the attack again from where the level is.
 */
export function envelope(context: KernelContext): Kernel {
  const gate = context.input('gate');
  const trigger = context.input('trigger');
  const out = context.output('out');
  const aim = 1 + ATTACK_OVERSHOOT;
  const rise = attackFactor(numberOf(context, 'attack'), context.sampleRate);
  const fall = fallFactor(numberOf(context, 'decay'), context.sampleRate);
  const off = fallFactor(numberOf(context, 'release'), context.sampleRate);
  const sustain = numberOf(context, 'sustain') / 100;
  let level = 0;
  let open = false;
  let rising = false;
  return {
    process(n) {
      for (let i = 0; i < n; i++) {
        const held = gate[i]! > 2.5;
        if (held && (!open || trigger[i]! > 2.5)) rising = true;
        open = held;
        if (!held) {
          rising = false;
          level *= off;
        } else if (rising) {
          level = aim + (level - aim) * rise;
          if (level >= 1 - 1e-9) {
            level = 1;
            rising = false;
          }
        } else {
          level = sustain + (level - sustain) * fall;
        }
        out[i] = FULL * level;
      }
    },
  };
}
