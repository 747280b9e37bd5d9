import { type ContinuousControl, drawControl, type Setting, type Shape } from '@hurrel/core';

/** A dial to show the kinds of setting on; only its upper half is seen. */
const DIAL: ContinuousControl = {
  id: 'legend',
  section: 'legend',
  name: '',
  kind: 'knob',
  sweep: 300,
  place: { x: 32, y: 30, size: 44 },
  rest: 0,
  bindings: [],
};

const draw = (setting?: Setting): Shape[] => drawControl(DIAL, setting);

/** The kinds of setting as the panel draws them, each with what one types for it. */
export const LEGEND: { name: string; hint: string; shapes: Shape[] }[] = [
  { name: 'exact', hint: ' 6.5', shapes: draw({ kind: 'set', value: 0.62 }) },
  {
    name: 'range, best guess',
    hint: ' 5-7 best 6',
    shapes: draw({ kind: 'range', from: 0.5, to: 0.74, best: 0.6 }),
  },
  {
    name: 'by ear',
    hint: ' ~6 until it beats',
    shapes: draw({ kind: 'ear', near: 0.62, target: 'x' }),
  },
  { name: 'does not matter', hint: ' *', shapes: draw({ kind: 'any' }) },
  { name: 'not recorded', hint: ' ?', shapes: draw() },
];
