import { controlHeard, type Heard } from '../instrument/heard';
import type { Control, Value } from '../instrument/schema';
import type { Setting } from '../reading/setting';
import { mustMove } from './plan';

/** Half of what lies between two of the 128 values that a controller number can have, above the middle, where they are wider apart. */
const HALF_STEP = 1 / 252;

/**
 * Whether a control that was heard over MIDI stands where it shall: at a reading that will do, as near as 128 values tell.
 * What is set by ear never does: only the ear knows.
 */
export function arrivedAt(control: Control, goal: Setting, heard: Value): boolean {
  if (goal.kind === 'ear') return false;
  const near = typeof heard === 'string' ? [heard] : nearOf(heard, goal);
  return near.some((value) => !mustMove(control, { kind: 'set', value }, goal));
}

/** Where a control may stand that sends this value: both ends, the middle, and where the goal is nearest. */
function nearOf(heard: number, goal: Setting): number[] {
  const [low, high] = [heard - HALF_STEP, heard + HALF_STEP];
  const within = (value: Value | undefined): number[] =>
    typeof value === 'number' && value >= low && value <= high ? [value] : [];
  const goals =
    goal.kind === 'range' ? [goal.from, goal.to] : goal.kind === 'set' ? [goal.value] : [];
  return [heard, low, high, ...goals.flatMap(within)];
}

/** Where controls were heard to stand, in the order of the panel. @param sent by controller number, the last of 0..127 */
const heardOf = (controls: readonly Control[], sent: ReadonlyMap<number, number>): Heard[] =>
  controls.flatMap(({ cc }) => {
    const last = cc === undefined ? undefined : sent.get(cc);
    return last === undefined ? [] : (controlHeard(controls, cc!, last) ?? []);
  });

type Settings = Readonly<Record<string, Setting>>;

/**
 * What was heard apart from what a patch says: elsewhere than it shall stand, and where the patch says nothing, or only the ear
 * knows.
 * @param sent by controller number, the last of 0..127
 */
export const heardApart = (
  controls: readonly Control[],
  settings: Settings,
  sent: ReadonlyMap<number, number>,
): Heard[] =>
  heardOf(controls, sent).filter(({ control, value }) => {
    const shall = settings[control.id];
    return !shall || !arrivedAt(control, shall, value);
  });

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
  settings: Settings,
  sent: ReadonlyMap<number, number>,
): Astray[] =>
  heardApart(controls, settings, sent).flatMap((heard): Astray[] => {
    const shall = settings[heard.control.id];
    return shall && shall.kind !== 'ear' ? [{ ...heard, shall }] : [];
  });
