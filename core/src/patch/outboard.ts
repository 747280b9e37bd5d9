import { freeName } from '../document';
import type { Outboard, OutboardControl } from '../instrument/outboard';
import { bareFace } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';
import { forget } from './rearrange';
import type { Patch } from './schema';

/** A patch with one more thing behind its instrument, at the end of the line, under a free id; nothing recorded of it yet. */
export function addOutboard(instrument: Instrument, patch: Patch, thing: Outboard): Patch {
  const bare = bareFace(instrument, patch);
  const id = freeName(thing.id, [
    ...bare.sections,
    ...bare.circuit.modules,
    ...patch.outboard,
    // A control's id begins with that of its thing.
    ...bare.controls,
  ]);
  const names = new Set(patch.outboard.map((t) => t.name));
  let { name } = thing;
  for (let n = 2; names.has(name); n++) name = `${thing.name} ${n}`;
  return { ...patch, outboard: [...patch.outboard, { ...thing, id, name }] };
}

/** A patch without a thing, and without what was recorded of its controls. */
export const takeOutboard = (instrument: Instrument, patch: Patch, id: string): Patch =>
  forget(instrument, patch, { ...patch, outboard: patch.outboard.filter((t) => t.id !== id) });

/** A patch in which something behind the instrument is described otherwise; what was recorded of controls that are gone goes. */
export const changeOutboard = (
  instrument: Instrument,
  patch: Patch,
  id: string,
  changes: Partial<Omit<Outboard, 'id'>>,
): Patch =>
  forget(instrument, patch, {
    ...patch,
    outboard: patch.outboard.map((t) => (t.id === id ? { ...t, ...changes } : t)),
  });

/** A patch with a thing one place earlier or later in the line. */
export function moveOutboard(patch: Patch, id: string, by: -1 | 1): Patch {
  const outboard = [...patch.outboard];
  const at = outboard.findIndex((t) => t.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= outboard.length) return patch;
  [outboard[at], outboard[to]] = [outboard[to]!, outboard[at]!];
  return { ...patch, outboard };
}

/** A control that is only noted, under a free id. */
export const newOutboardControl = (thing: Outboard): OutboardControl => ({
  id: freeName('knob', thing.controls),
  name: `knob ${thing.controls.length + 1}`,
  scale: [0, 10],
  rest: 0,
  turns: [],
});
