import type { Control } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';

/** Seconds that movements take; editable per programmer. */
export interface HandTimes {
  /** A knob, slider, wheel or pedal to a reading. */
  knob: number;
  /** Anything set by ear. */
  ear: number;
  /** A switch, whatever its number of positions. */
  switch: number;
  /** A cable put in, or moved by one end. */
  cable: number;
  /** A cable pulled out. */
  pull: number;
  /** One press on the way to a hidden parameter. */
  press: number;
  /** From one section to another. */
  reach: number;
}

export const defaultTimes: HandTimes = {
  knob: 3,
  ear: 8,
  switch: 1,
  cable: 5,
  pull: 2,
  press: 2,
  reach: 0.5,
};

/** Seconds to set one control, the route to it included; `byEar` when a target decides. */
export function movementSeconds(control: Control, byEar: boolean, times = defaultTimes): number {
  const route = (control.route?.length ?? 0) * times.press;
  if (byEar) return route + times.ear;
  return route + (isSwitched(control) ? times.switch : times.knob);
}
