import type { Control, Value } from './schema';
import { isSwitched } from './switched';

/** What a control was moved to by hand, as its instrument says over MIDI. */
export interface Heard {
  control: Control;
  /** Share of the travel, to the nearest of 128; or a position. */
  value: Value;
}

/**
 * The control that sends a controller number, and where it stands: 0 is one end, 127 the other, 64 the middle. Positions share
 * the 128 values evenly.
 * Source of the scale: MIDI 2.0, Bit Scaling and Resolution (M2-115-U): lowest, middle and highest stay what they are.
 *
 * @param cc controller number, 0..127  @param sent 0..127
 */
export function controlHeard(
  controls: readonly Control[],
  cc: number,
  sent: number,
): Heard | undefined {
  const control = controls.find((c) => c.cc === cc);
  if (!control) return undefined;
  if (!isSwitched(control))
    return { control, value: sent <= 64 ? sent / 128 : 0.5 + (sent - 64) / 126 };
  const { positions } = control;
  return { control, value: positions[Math.floor((sent * positions.length) / 128)]!.id };
}
