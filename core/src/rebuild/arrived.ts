import type { Control, Value } from '../instrument/schema';
import type { Setting } from '../reading/setting';
import { mustMove } from './plan';

/** Half of what lies between two of the 128 values that a controller number can have. */
const HALF_STEP = 1 / 254;

/**
 * Whether a control that was heard over MIDI stands where it shall: at a reading that will do, as near as 128 values tell.
 * What is set by ear never does: only the ear knows.
 */
export function arrivedAt(control: Control, goal: Setting, heard: Value): boolean {
  if (goal.kind === 'ear') return false;
  const near = typeof heard === 'string' ? [heard] : [heard, heard - HALF_STEP, heard + HALF_STEP];
  return near.some((value) => !mustMove(control, { kind: 'set', value }, goal));
}
