import { INSTRUMENT_FORMAT_VERSION, type Instrument, type Rack, type RackType } from './schema';

/** What parts two rows of a cabinet, in panel units. */
export const BETWEEN_ROWS = 8;

/**
 * A module type of a cabinet as an instrument of its own: one section, with what is on its face and behind it, from its
 * upper left corner. What is done with an instrument can be done with it; `withModule` puts it back.
 */
export function moduleAlone(instrument: Instrument, rack: Rack, type: RackType): Instrument {
  const height = rack.rowHeight - BETWEEN_ROWS;
  return {
    format: 'hurrel-instrument',
    version: INSTRUMENT_FORMAT_VERSION,
    id: instrument.id,
    maker: instrument.maker,
    name: type.name,
    summary: '',
    panel: {
      width: type.width,
      height,
      ...(instrument.panel.arranged ? { arranged: true as const } : {}),
    },
    sections: [
      { id: type.id, name: type.name, stage: type.stage, x: 0, y: 0, width: type.width, height },
    ],
    controls: type.controls,
    jacks: type.jacks,
    circuit: { modules: type.modules, wires: type.wires },
    revisions: [],
    sequencers: type.sequencer ? [type.sequencer] : [],
    memory: { kind: 'none' },
    start: { note: '', settings: {} },
    init: { note: '', settings: {} },
  };
}

/** A module's type out of an instrument of one section, wherever that stands; and how high it is. */
export function typeFrom(alone: Instrument): { type: RackType; height: number } {
  const section = alone.sections[0];
  const [sequencer] = alone.sequencers;
  if (!section) throw new Error('A module has a face: one section.');
  const { x, y } = section;
  const moved = <T extends { place: { x: number; y: number; size: number } }>(one: T): T =>
    x === 0 && y === 0
      ? one
      : { ...one, place: { ...one.place, x: one.place.x - x, y: one.place.y - y } };
  return {
    type: {
      id: section.id,
      name: section.name,
      stage: section.stage,
      width: section.width,
      controls: alone.controls.map(moved),
      jacks: alone.jacks.map(moved),
      modules: alone.circuit.modules,
      wires: alone.circuit.wires,
      ...(sequencer ? { sequencer } : {}),
    },
    height: section.height,
  };
}
