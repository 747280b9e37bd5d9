import type { Jack } from '../instrument/jack';

/**
 * Whether an output drives an input at all. A short to ground gives no voltage, and a voltage shorts nothing: between
 * S-triggers and everything else nothing happens without a converter. All other signals are voltages, whatever they do.
 */
export const drives = (from: Jack, to: Jack): boolean =>
  (from.signal === 's-trigger') === (to.signal === 's-trigger');

/** How a pitch jack counts: volts an octave unless it says otherwise; undefined for what is no pitch. */
export const pitchStandard = (jack: Jack): 'V/oct' | 'Hz/V' | undefined =>
  jack.signal === 'pitch' ? (jack.standard ?? 'V/oct') : undefined;
