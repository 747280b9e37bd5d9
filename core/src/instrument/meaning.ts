import equal from 'fast-deep-equal';
import type { Control, Instrument } from './schema';
import { hasCircuit, isSwitched } from './schema';

const known = new WeakMap<Control, string>();

/** What decides how a setting of a control reads: two controls with the same read every setting alike. */
export function readsAs(control: Control): string {
  let reads = known.get(control);
  if (reads === undefined) known.set(control, (reads = spell(control)));
  return reads;
}

function spell(control: Control): string {
  if (isSwitched(control)) return JSON.stringify(control.positions);
  const { kind, scale, display, sweep, bindings } = control;
  // What a display shows is the physical value itself.
  const shown = display ? bindings.map((b) => b.taper) : [];
  return JSON.stringify([kind, scale ?? sweep, display, shown]);
}

/**
 * Whether everything that can be recorded on a panel as it was described means the same on it as it is described now: every
 * control is there and reads alike, every jack, section, matrix, sequencer and revision is there, and what could be heard
 * before is heard the same. What had no circuit before may get one: nothing that was said becomes another thing by it.
 */
export function keepsMeaning(before: Instrument, after: Instrument): boolean {
  const now = new Map(after.controls.map((c) => [c.id, c]));
  const heard = hasCircuit(before);
  return (
    before.controls.every((old) => {
      const control = now.get(old.id);
      return (
        control !== undefined &&
        readsAs(control) === readsAs(old) &&
        (!heard || equal(control.bindings, old.bindings))
      );
    }) &&
    has(after.sections, before.sections) &&
    before.jacks.every((jack) =>
      after.jacks.some(
        (j) =>
          j.id === jack.id && j.direction === jack.direction && (!heard || j.port === jack.port),
      ),
    ) &&
    (!before.matrix || equal(before.matrix, after.matrix)) &&
    equal(before.rack, after.rack) &&
    before.sequencers.every((s) => after.sequencers.some((other) => equal(other, s))) &&
    (!heard || sameSound(before, after))
  );
}

const has = (all: readonly { id: string }[], wanted: readonly { id: string }[]): boolean =>
  wanted.every(({ id }) => all.some((one) => one.id === id));

/** Whether the circuit is the same, and nothing new turns any of it. */
function sameSound(before: Instrument, after: Instrument): boolean {
  const known = new Set(before.controls.map((c) => c.id));
  return (
    equal(before.circuit, after.circuit) &&
    equal(before.revisions, after.revisions) &&
    after.controls.every((c) => known.has(c.id) || c.bindings.length === 0)
  );
}

/** Whether every setting of one panel reads alike on another: both have the same controls. */
export const readingsAlike = (a: Instrument, b: Instrument): boolean => {
  const there = new Map(b.controls.map((c) => [c.id, c]));
  return (
    a.controls.length === b.controls.length &&
    a.controls.every((c) => {
      const other = there.get(c.id);
      return other !== undefined && readsAs(c) === readsAs(other);
    })
  );
};
