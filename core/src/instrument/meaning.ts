import equal from 'fast-deep-equal';
import { moduleAlone } from './module-alone';
import { panelOf } from './panel-of';
import type { Control, Instrument } from './schema';
import { hasCircuit, isSwitched } from './switched';
import type { Sequencer } from './sequencer';

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
  // Without a scale, what a display shows is the physical value itself. With one, how finely it shows it means nothing else.
  const shown = display && !scale ? bindings.map((b) => b.taper) : [];
  return JSON.stringify([kind, scale ?? sweep, scale ? undefined : display, shown]);
}

/**
 * Whether everything that can be recorded on a panel as it was described means the same on it as it is described now: every
 * control is there and reads alike, every jack, section, matrix, sequencer and revision is there, and what could be heard
 * before is heard the same. What had no circuit before may get one: nothing that was said becomes another thing by it.
 */
export function keepsMeaning(before: Instrument, after: Instrument): boolean {
  if (!before.rack && !after.rack) return means(before, after);
  return means(panelOf(before), panelOf(after)) && keepsCabinet(before, after);
}

/** Whether every arrangement of a cabinet is one of another, and each of its modules means the same there. */
function keepsCabinet(before: Instrument, after: Instrument): boolean {
  const [was, now] = [before.rack, after.rack];
  if (!was) return true;
  if (!now || now.rows < was.rows) return false;
  return was.types.every((type) => {
    const other = now.types.find((t) => t.id === type.id);
    return (
      other !== undefined &&
      // Where a patch has put modules side by side, a wider one would stand on its neighbour.
      other.width <= type.width &&
      means(moduleAlone(before, was, type), moduleAlone(after, now, other))
    );
  });
}

function means(before: Instrument, after: Instrument): boolean {
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
    keepsMatrix(before.matrix, after.matrix) &&
    before.sequencers.every((s) => after.sequencers.some((other) => holds(other, s))) &&
    (!heard || sameSound(before, after))
  );
}

const has = (all: readonly { id: string }[], wanted: readonly { id: string }[]): boolean =>
  wanted.every(({ id }) => all.some((one) => one.id === id));

type Matrix = Instrument['matrix'];

/** Whether every row that could be filled can be, and does the same: ends may be added, and called otherwise. */
function keepsMatrix(before: Matrix, after: Matrix): boolean {
  if (!before) return true;
  if (!after || after.rows < before.rows || !equal(after.fixed, before.fixed)) return false;
  const { most, step } = before.depth;
  return (
    after.depth.most === most &&
    after.depth.step === step &&
    before.sources.every((s) => after.sources.some((o) => o.id === s.id && o.port === s.port)) &&
    before.destinations.every((d) =>
      after.destinations.some((o) => o.id === d.id && o.port === d.port && o.full === d.full),
    )
  );
}

/** Whether a sequencer holds every pattern that another did: what it can be told to do is no part of a pattern. */
const holds = (now: Sequencer, was: Sequencer): boolean =>
  now.id === was.id &&
  now.kind === was.kind &&
  now.steps >= was.steps &&
  was.tracks.every((t) =>
    now.tracks.some((o) => o.id === t.id && o.from === t.from && o.to === t.to),
  ) &&
  was.rows.every((row) => {
    const other = now.rows.find((o) => o.id === row.id);
    return (
      other !== undefined &&
      equal(other.controls, row.controls) &&
      other.through === row.through &&
      other.pitch === row.pitch
    );
  });

/** A circuit as it is heard: what its modules are called is not. */
const soundOf = ({ modules, wires }: Instrument['circuit']) => ({
  modules: modules.map(({ id, kind, params }) => ({ id, kind, params })),
  wires,
});

type Revision = Instrument['revisions'][number];
const sameRevision = (now: Revision, was: Revision): boolean =>
  now.id === was.id &&
  equal(soundOf({ modules: now.modules, wires: [] }), soundOf({ modules: was.modules, wires: [] }));

/**
 * Whether the circuit is the same, and nothing new turns any of it. What is new beside it, and leads nowhere into it, like
 * one more module in a cabinet, changes nothing.
 */
function sameSound(before: Instrument, after: Instrument): boolean {
  const known = new Set(before.controls.map((c) => c.id));
  const old = new Set(before.circuit.modules.map((m) => m.id));
  const within = {
    modules: after.circuit.modules.filter((m) => old.has(m.id)),
    wires: after.circuit.wires.filter((w) => old.has(moduleOf(w.from)) || old.has(moduleOf(w.to))),
  };
  return (
    equal(soundOf(before.circuit), soundOf(within)) &&
    before.revisions.every((r) => after.revisions.some((o) => sameRevision(o, r))) &&
    after.controls.every((c) => known.has(c.id) || !c.bindings.some((b) => old.has(b.module)))
  );
}

const moduleOf = (port: string): string => port.split('.')[0]!;

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
