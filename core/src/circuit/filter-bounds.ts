import {
  DIODE_WHISTLE,
  diodeLoopGain,
  ladderLoopGain,
  threePoleDamping,
} from '../theory/prototypes';
import type { GraphNode } from './graph';
import type { Interval } from './interval';

/** The filter oscillates by itself. */
export function whistles(node: GraphNode): boolean {
  const resonance = Number(node.params.resonance);
  switch (node.kind) {
    case 'low-pass-18':
      return threePoleDamping(resonance) <= 0;
    case 'low-pass-24':
      return ladderLoopGain(resonance) >= 4;
    case 'diode':
      return diodeLoopGain(resonance) >= DIODE_WHISTLE;
    default:
      return false;
  }
}

/** Cutoffs in Hz that a low-pass reaches. */
export const cutoffInterval = (node: GraphNode, volts: Interval): Interval => {
  const floor = Number(node.params.cutoff);
  const clip = (hz: number): number => Math.min(20000, Math.max(5, hz));
  return [clip(floor * 2 ** volts[0]), clip(floor * 2 ** volts[1])];
};
