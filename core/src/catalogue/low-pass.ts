import {
  DIODE_WHISTLE,
  diodeLoopGain,
  ladderLoopGain,
  LADDER_WHISTLE,
  threePoleDamping,
  twoPoleDamping,
} from '../theory/prototypes';
import { addIntervals, AUDIO, hull, type Interval, scaled } from './interval';
import type { Bounds, Params } from './situation';

/** What the doctor asks of a low-pass. */
export interface LowPass {
  /** dB an octave above the cutoff. */
  slope: number;
  /** What resonance, 0..1, leaves of the damping, as a share of what there is without any; at 0 it whistles. */
  left(resonance: number): number;
}

export const lowPasses = {
  twoPole: { slope: 12, left: twoPoleDamping },
  threePole: { slope: 18, left: threePoleDamping },
  ladder: { slope: 24, left: (r) => 1 - ladderLoopGain(r) / LADDER_WHISTLE },
  diode: { slope: 24, left: (r) => 1 - diodeLoopGain(r) / DIODE_WHISTLE },
} as const satisfies Record<string, LowPass>;

/** Cutoffs in Hz that a low-pass reaches while its input moves it by so many volts. */
export const cutoffInterval = (params: Params, volts: Interval): Interval => {
  const floor = Number(params.cutoff);
  const clip = (hz: number): number => Math.min(20000, Math.max(5, hz));
  return [clip(floor * 2 ** volts[0]), clip(floor * 2 ** volts[1])];
};

/** What comes in comes out, and a whistle where there is one. */
export const lowPassBounds =
  (filter: LowPass): Bounds =>
  ({ params, input, number }) => {
    const volts = addIntervals(input('cutoff'), scaled(input('pitch'), number('track') / 100));
    const whistles = filter.left(number('resonance')) <= 0;
    return {
      out: whistles ? hull(input('in'), AUDIO) : input('in'),
      hz: cutoffInterval(params, volts),
    };
  };
