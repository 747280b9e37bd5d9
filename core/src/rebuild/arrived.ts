import { controlHeard, type Heard } from '../instrument/heard';
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

/** A control that was heard to stand where it shall not. */
export interface Astray extends Heard {
  shall: Setting;
}

/**
 * The controls that were heard to stand elsewhere than a patch says, in the order of the panel. What the patch says nothing
 * of, and what only the ear knows, is left out.
 * @param sent by controller number, the last of 0..127
 */
export const astray = (
  controls: readonly Control[],
  settings: Readonly<Record<string, Setting>>,
  sent: ReadonlyMap<number, number>,
): Astray[] =>
  controls.flatMap(({ id, cc }): Astray[] => {
    const [shall, last] = [settings[id], cc === undefined ? undefined : sent.get(cc)];
    const heard = last === undefined ? undefined : controlHeard(controls, cc!, last);
    if (!heard || !shall || shall.kind === 'ear') return [];
    return arrivedAt(heard.control, shall, heard.value) ? [] : [{ ...heard, shall }];
  });
