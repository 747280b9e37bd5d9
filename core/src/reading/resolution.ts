import type { ContinuousControl, Control, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { clockTolerance } from './dial';
import { displayed, displayStep, numbersOf } from './shown-number';
import { scaleBounds, scalePosition, scaleReading } from './taper';

/** How a control without numbers of its own is read: what turns by the clock, the rest by per cent. */
export type ReadingStyle = 'display' | 'printed' | 'clock' | 'percent';

export function readingStyle(control: ContinuousControl): ReadingStyle {
  if (control.display && (control.scale || control.bindings[0])) return 'display';
  if (control.scale) return 'printed';
  return control.kind === 'knob' || control.kind === 'encoder' ? 'clock' : 'percent';
}

/** Decimals that a printed scale can be read to: enough for a quarter of its smallest division. */
export const scaleDecimals = (division: number): number =>
  Math.max(0, Math.ceil(-Math.log10(division / 4) - 1e-9));

/**
 * How far, in share of travel, two values may lie apart and still be one reading.
 * Clock: a quarter of an hour. Printed: a quarter of the smallest division, taken where the marks are widest apart.
 * Display: half of the last digit. Per cent: one.
 */
export function readingTolerance(control: Control, position = 0.5): number {
  if (isSwitched(control)) return 0;
  switch (readingStyle(control)) {
    case 'display': {
      const shown = numbersOf(control)!;
      const value = shown.value(position);
      const half = displayStep(control, value) / 2;
      const near = [value - half, value + half]
        .map((v) => shown.position(v))
        .filter((p): p is number => p !== undefined);
      return Math.max(0, ...near.map((p) => Math.abs(p - position)));
    }
    case 'printed': {
      const scale = control.scale!;
      const quarter = scale.division / 4;
      const [lo, hi] = scaleBounds(scale);
      const value = scaleReading(scale, position);
      const up = scalePosition(scale, Math.min(hi, value + quarter))!;
      const down = scalePosition(scale, Math.max(lo, value - quarter))!;
      return Math.max(Math.abs(up - position), Math.abs(down - position));
    }
    case 'clock':
      return clockTolerance(control.sweep);
    case 'percent':
      return 0.01;
  }
}

/** True when two values of a control would be read as the same: on a display, when it shows the same number. */
export function sameReading(control: Control, a: Value, b: Value): boolean {
  if (typeof a === 'string' || typeof b === 'string' || isSwitched(control)) return a === b;
  if (readingStyle(control) === 'display') {
    const { value } = numbersOf(control)!;
    const [first, second] = [displayed(control, value(a)), displayed(control, value(b))];
    return Math.abs(first - second) < displayStep(control, first) / 2;
  }
  return Math.abs(a - b) <= readingTolerance(control, a) + 1e-9;
}

/** The value one step away in what the panel can resolve; `steps` may be negative. Held at the ends. */
export function nudge(control: Control, value: Value, steps: number): Value {
  if (isSwitched(control)) {
    const at = control.positions.findIndex((p) => p.id === value);
    const next = Math.min(control.positions.length - 1, Math.max(0, at + steps));
    return control.positions[next]!.id;
  }
  return snap(control, Number(value), steps);
}

/** The value snapped to what the panel can resolve, `steps` away. */
export function snap(control: ContinuousControl, position: number, steps = 0): number {
  const style = readingStyle(control);
  if (style === 'printed' || style === 'display') {
    const numbers = numbersOf(control)!;
    const onPanel = numbers.value(position);
    const unit =
      style === 'printed'
        ? 10 ** -scaleDecimals(control.scale!.division)
        : displayStep(control, onPanel);
    const from =
      style === 'printed' ? Math.round(onPanel / unit) * unit : displayed(control, onPanel);
    const wanted = from + steps * unit;
    const found = numbers.position(wanted);
    return roundPosition(found ?? (wanted > onPanel === rising(control) ? 1 : 0));
  }
  const unit = style === 'clock' ? 2.5 / control.sweep : 0.01;
  // Counted from noon, so that the clock's even times are the ones that are met.
  const wanted = 0.5 + (Math.round((position - 0.5) / unit) + steps) * unit;
  return roundPosition(Math.min(1, Math.max(0, wanted)));
}

function rising(control: ContinuousControl): boolean {
  const numbers = numbersOf(control);
  return !numbers || numbers.value(1) >= numbers.value(0);
}

/** Positions are kept to nine decimals, so that the same reading is always the same number. */
export const roundPosition = (position: number): number => Math.round(position * 1e9) / 1e9;
