import { BETWEEN_MODULES, rackWidth } from '../instrument/arrange';
import { LARGEST_SHEET } from '../instrument/limits';
import { BETWEEN_ROWS, moduleAlone, typeFrom } from '../instrument/module-alone';
import type { Placed } from '../instrument/rack';
import type { Instrument, Rack, RackType } from '../instrument/schema';
import { boxOf } from './hand';
import { blocksOf, NO_ROOM } from './lines';
import { outlineOf } from './outline-of';
import { readOutline } from './read';
import { withCabinet, withoutCabinet } from './with-cabinet';
import { writeOutline } from './write';

/** Rows of a cabinet are no higher. */
const HIGHEST = 1000;

/** A module of a cabinet as an instrument of its own, with its own words: whatever is done with instruments can be done with it. */
export function moduleInFocus(instrument: Instrument, id: string): Instrument | undefined {
  const { rack } = instrument;
  const type = rack?.types.find((t) => t.id === id);
  if (!rack || !type) return undefined;
  const alone = moduleAlone(instrument, rack, type);
  return { ...alone, outline: wordsOf(alone) };
}

const wordsOf = (alone: Instrument): string =>
  writeOutline({ ...outlineOf(alone), name: '', maker: '' });

/**
 * The instrument with a module as it was made by itself. Rows become as high and modules give way as far as that needs.
 * @throws Error when the module has more than one section, or the cabinet no room
 */
export function withModuleInFocus(
  instrument: Instrument,
  id: string,
  edited: Instrument,
): Instrument {
  const { rack } = instrument;
  const old = rack?.types.find((t) => t.id === id);
  if (!rack || !old) return instrument;
  if (edited.sections.length !== 1)
    throw new Error('A module is one section: describe another module in the words of the panel.');
  const { type, height } = typeFrom(edited);
  const own: RackType = {
    ...type,
    ...(old.note ? { note: old.note } : {}),
    id,
    controls: type.controls.map((c) => (c.section === id ? c : { ...c, section: id })),
    jacks: type.jacks.map((j) => (j.section === id ? j : { ...j, section: id })),
  };
  const types = rack.types.map((t) => (t.id === id ? own : t));
  const needed = Math.max(
    ...rack.types.filter((t) => t.id !== id).map((t) => bottomOf(instrument, rack, t)),
    0,
  );
  const rowHeight =
    height === rack.rowHeight - BETWEEN_ROWS
      ? rack.rowHeight
      : Math.ceil(Math.max(height, needed)) + BETWEEN_ROWS;
  const next = { ...rack, rowHeight, types };
  const cabinet = { ...next, placed: givingWay(next, rack.placed) };
  if (rowHeight > HIGHEST || rackWidth(cabinet, []) > LARGEST_SHEET - 8) throw new Error(NO_ROOM);
  const made = withCabinet(withoutCabinet(instrument), cabinet, instrument);
  const { arranged } = edited.panel;
  return {
    ...made,
    panel: { ...made.panel, ...(arranged ? { arranged } : {}) },
    ...outlineWith(instrument, id, edited),
  };
}

/** How far down what is on a module reaches. */
const bottomOf = (instrument: Instrument, rack: Rack, type: RackType): number => {
  const alone = moduleAlone(instrument, rack, type);
  const things = [
    ...alone.controls.map((c) => boxOf(alone, `control:${c.id}`)),
    ...alone.jacks.map((j) => boxOf(alone, `jack:${j.id}`)),
  ];
  return Math.max(64, ...things.map((box) => (box ? box.y + box.height + 4 : 0)));
};

/** Modules where they stand, each as far to the right as the one before it asks. */
export function givingWay(rack: Rack, placed: readonly Placed[]): Placed[] {
  const widths = new Map(rack.types.map((t) => [t.id, t.width]));
  const ends = new Map<number, number>();
  const moved = new Map<string, number>();
  for (const one of [...placed].sort((a, b) => a.at - b.at)) {
    const at = Math.max(one.at, ends.get(one.row) ?? 0);
    ends.set(one.row, at + (widths.get(one.type) ?? 0) + BETWEEN_MODULES);
    moved.set(one.id, at);
  }
  return placed.map((one) => {
    const at = moved.get(one.id) ?? one.at;
    return at === one.at ? one : { ...one, at };
  });
}

/** The words of the whole with those of a module, where they have changed. */
function outlineWith(
  instrument: Instrument,
  id: string,
  edited: Instrument,
): Pick<Instrument, 'outline'> {
  const text = instrument.outline;
  if (text === undefined) return {};
  const before = moduleInFocus(instrument, id);
  const words = wordsOf(edited);
  if (!before || words === before.outline) return { outline: text };
  const block = blocksOf(text).find((b) => b.name.toLowerCase() === before.name.toLowerCase());
  if (!block) return { outline: text };
  const lines = text.split(/\r?\n/);
  const section = readOutline(words).outline.sections[0];
  if (!section) return { outline: text };
  const written = writeOutline({ name: '', maker: '', sections: [{ ...section, module: true }] });
  let to = block.to;
  while (to > block.from + 1 && lines[to - 1]!.trim() === '') to--;
  return { outline: [...lines.slice(0, block.from), written, ...lines.slice(to)].join('\n') };
}
