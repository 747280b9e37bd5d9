import type { Outboard } from './outboard';
import type { Placed } from './rack';
import { withOutboard } from './with-outboard';
import type { Sequencer } from './sequencer';
import type { Control, Instrument, Module, RackType, Wire } from './schema';

/** What of a patch decides about the panel one stands before. */
export interface PanelChoice {
  /** Where the modules of a cabinet stood when the patch was recorded; absent for the cabinet's own arrangement. */
  rack?: readonly Placed[] | undefined;
  /** What stands behind the instrument, in the order of the sound. */
  outboard?: readonly Outboard[] | undefined;
  /** Jack at which the sound is taken off; absent for the instrument's own output. */
  outlet?: string | undefined;
}

/** Of every face the instrument that it is a face of. */
const definitions = new WeakMap<Instrument, Instrument>();
const cabinets = new WeakMap<Instrument, WeakMap<readonly Placed[], Instrument>>();
/** Faces with something behind them: by the face, by what stands there, by the outlet. */
const behind = new WeakMap<Instrument, WeakMap<readonly Outboard[], Map<string, Instrument>>>();
const NOTHING: readonly Outboard[] = [];

/**
 * The panel one stands before: of a cabinet its modules where they are placed, each a section of its own; of any other
 * instrument the instrument itself; and below either what stands behind it. A placed module's controls, jacks and circuit
 * take the module's id in front of their own, so moving a module changes nothing that was recorded of it. The same objects
 * give the same face; of a face it is what it would be of its instrument, so that whoever holds one need not know.
 */
export function panelOf(instrument: Instrument, choice: PanelChoice = {}): Instrument {
  const face = bareFace(instrument, choice);
  const { outboard = NOTHING, outlet } = choice;
  if (outboard.length === 0 && outlet === undefined) return face;
  const list = outboard.length === 0 ? NOTHING : outboard;
  const faces = behind.get(face) ?? new WeakMap<readonly Outboard[], Map<string, Instrument>>();
  behind.set(face, faces);
  const outlets = faces.get(list) ?? new Map<string, Instrument>();
  faces.set(list, outlets);
  const found = outlets.get(outlet ?? '');
  if (found) return found;
  const made = withOutboard(face, list, outlet);
  outlets.set(outlet ?? '', made);
  definitions.set(made, definitions.get(face) ?? face);
  return made;
}

/** The panel without what stands behind it. */
export function bareFace(instrument: Instrument, { rack: arranged }: PanelChoice): Instrument {
  const definition = definitions.get(instrument) ?? instrument;
  const { rack } = definition;
  if (!rack) return definition;
  const placed = arranged ?? rack.placed;
  const known = cabinets.get(definition) ?? new WeakMap<readonly Placed[], Instrument>();
  cabinets.set(definition, known);
  const found = known.get(placed);
  if (found) return found;
  const face = build(definition, placed);
  known.set(placed, face);
  definitions.set(face, definition);
  return face;
}

function build(instrument: Instrument, placed: readonly Placed[]): Instrument {
  const rack = instrument.rack!;
  const types = new Map(rack.types.map((t) => [t.id, t]));
  const face: Instrument = {
    ...instrument,
    sections: [...instrument.sections],
    controls: [...instrument.controls],
    jacks: [...instrument.jacks],
    sequencers: [...instrument.sequencers],
    circuit: {
      modules: [...instrument.circuit.modules],
      wires: [...instrument.circuit.wires],
    },
  };
  for (const one of placed) {
    const type = types.get(one.type);
    if (type) place(face, one, type, rack.rowHeight);
  }
  return face;
}

function place(face: Instrument, one: Placed, type: RackType, rowHeight: number): void {
  const own = (id: string): string => `${one.id}-${id}`;
  const [x, y] = [one.at, one.row * rowHeight];
  face.sections.push({
    id: one.id,
    name: nameOf(face, one, type),
    stage: type.stage,
    x,
    y,
    width: type.width,
    height: rowHeight - 8,
  });
  const moved = <T extends { place: { x: number; y: number; size: number } }>(item: T): T => ({
    ...item,
    section: one.id,
    place: { ...item.place, x: item.place.x + x, y: item.place.y + y },
  });
  for (const control of type.controls) {
    face.controls.push({
      ...moved(control),
      id: own(control.id),
      bindings: control.bindings.map((b) => ({ ...b, module: own(b.module) })),
    } as Control);
  }
  for (const jack of type.jacks) {
    const port = jack.port === '' ? '' : own(jack.port);
    face.jacks.push({ ...moved(jack), id: own(jack.id), port });
  }
  for (const module of type.modules) {
    const name = face.sections.at(-1)!.name;
    face.circuit.modules.push({
      ...module,
      id: own(module.id),
      name: module.name ? `${name} ${module.name}` : name,
    } satisfies Module);
  }
  if (type.sequencer) {
    const { name } = face.sections.at(-1)!;
    face.sequencers.push(sequencerOn(type.sequencer, one.id, name, own));
  }
  for (const wire of type.wires) {
    face.circuit.wires.push({
      from: own(wire.from),
      to: own(wire.to),
      ...(wire.normalOf === undefined ? {} : { normalOf: own(wire.normalOf) }),
    } satisfies Wire);
  }
}

/** A module's steps, by the names that its controls have on the panel. */
function sequencerOn(
  sequencer: Sequencer,
  id: string,
  name: string,
  own: (id: string) => string,
): Sequencer {
  const { rows, panel, can } = sequencer;
  return {
    ...sequencer,
    id,
    name,
    rows: rows.map((row) => ({
      ...row,
      controls: row.controls.map(own),
      ...(row.through === undefined ? {} : { through: own(row.through) }),
    })),
    panel: Object.fromEntries(Object.entries(panel).map(([what, control]) => [what, own(control)])),
    can: Array.isArray(can.ownValues) ? { ...can, ownValues: can.ownValues.map(own) } : can,
  };
}

/** A type that stands there more than once is told apart by a number. */
function nameOf(face: Instrument, one: Placed, type: RackType): string {
  const number = /-(\d+)$/.exec(one.id)?.[1];
  const taken = face.sections.some((s) => s.name === type.name);
  return number && (Number(number) > 1 || taken) ? `${type.name} ${number}` : type.name;
}
