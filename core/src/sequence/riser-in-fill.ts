import type { Instrument } from '../instrument/schema';
import type { Sequencer } from '../instrument/sequencer';
import type { Track } from '../pattern/pattern';
import { stepOf } from '../pattern/steps';
import { rebuilt } from './tools';
import { capabilitiesOf } from './capabilities';
import { canHaveOwn } from './fit';
import type { Riser } from './riser';

/**
 * Why a riser cannot be kept for fills by a sequencer: it must know fills, and give the depth a value of its own for a step.
 * @returns empty when it can
 */
export function cannotInFill(
  instrument: Instrument,
  sequencer: Sequencer | undefined,
  { depth }: Pick<Riser, 'depth'>,
): string {
  const can = capabilitiesOf(sequencer);
  if (!can.conditions.includes('fill')) return 'The sequencer knows no fills.';
  if (!canHaveOwn(instrument, can, depth.control))
    return `A step cannot move what the riser’s depth is.`;
  return '';
}

/**
 * The track with a riser that is heard in fills alone: a hit that plays only then, with the depth as its own value. The panel
 * stands at the depth that rises by nothing (`Riser.flat`).
 * @param step from 0; what is struck there already is struck in fills alone
 */
export function riserInFill(track: Track, step: number, note: number, riser: Riser): Track {
  const there = stepOf(track, step);
  const hit = {
    ...there,
    notes: there.notes ?? [note],
    condition: 'fill' as const,
    ownValues: { ...there.ownValues, [riser.depth.control]: riser.depth.value },
  };
  return rebuilt(track, track.length, (i) => (i === step ? hit : stepOf(track, i)));
}
