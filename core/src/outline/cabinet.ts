import { freeName } from '../document';
import { BETWEEN_MODULES, freeModuleId } from '../instrument/arrange';
import { LARGEST_SHEET, MOST_CABINET_ROWS } from '../instrument/limits';
import { BETWEEN_ROWS, moduleAlone, typeFrom } from '../instrument/module-alone';
import type { Placed } from '../instrument/rack';
import type { Instrument, Rack, RackType } from '../instrument/schema';
import type { Outline, OutlineSection } from './outline';

/** Width of a cabinet whose rows nobody has said. */
const WIDE = 1200;
/** Room that is left at the right and at the bottom of a sheet. */
const MARGIN = 16;

type Describe = (outline: Outline, before: Instrument | undefined) => Instrument;

/**
 * The cabinet that an outline describes: a type for each section that is a module, and the rows in which they stand. What
 * is known of a type stays with it, and so do ids of what stands where it stood.
 * @param describe makes an instrument of one module's words
 * @param before the instrument as it was described
 * @param others ids of what is on the panel beside it
 * @param beside height of what stands beneath
 */
export function cabinetOf(
  outline: Outline,
  before: Instrument | undefined,
  others: readonly string[],
  beside: number,
  describe: Describe,
): Rack | undefined {
  const sections = outline.sections.filter((s) => s.module);
  if (sections.length === 0) return undefined;
  const was = before?.rack;
  const known = typesBefore(sections, was);
  const taken: { id: string }[] = [];
  const made = sections.map((section, i) => {
    const { module: _, ...words } = section;
    const old = known[i];
    const alone = before && was && old && moduleAlone(before, was, { ...old, name: section.name });
    const one = describe({ name: section.name, maker: '', sections: [words] }, alone);
    const { type, height } = typeFrom(one);
    const id = old?.id ?? freeName(type.id, [...taken, ...known.flatMap((t) => t ?? [])]);
    taken.push({ id });
    return { type: { ...type, ...(old?.note ? { note: old.note } : {}), id }, height };
  });
  const types = made.map(({ type }): RackType => ({
    ...type,
    controls: type.controls.map((c) => ({ ...c, section: type.id })),
    jacks: type.jacks.map((j) => ({ ...j, section: type.id })),
  }));
  const rowHeight = Math.max(...made.map((m) => Math.ceil(m.height))) + BETWEEN_ROWS;
  const ids = new Map(types.map((t) => [t.name.toLowerCase(), t.id]));
  const wanted = outline.rows?.map((row) => row.map((name) => ids.get(name.toLowerCase())!));
  const rows = withRoom(
    wanted ??
      inRows(
        types.map((t) => t.id),
        types,
        WIDE,
      ),
    types,
    rowHeight,
    beside,
  );
  return {
    rowHeight,
    rows: Math.max(1, rows.length),
    types,
    placed: placedIn(rows, types, was, others),
  };
}

/** What each module was, by its name; one under a new name by its turn. */
function typesBefore(
  sections: readonly OutlineSection[],
  was: Rack | undefined,
): (RackType | undefined)[] {
  const left = new Map(was?.types.map((t) => [t.name.toLowerCase(), t]));
  const found = sections.map((s) => {
    const type = left.get(s.name.toLowerCase());
    left.delete(s.name.toLowerCase());
    return type;
  });
  const gone = [...left.values()];
  // As many new names as there are names gone: they are the same modules.
  const fresh = found.filter((t) => t === undefined).length;
  return fresh === gone.length ? found.map((t) => t ?? gone.shift()) : found;
}

/** Modules one after the other, in rows that are no wider than so much. */
function inRows(row: readonly string[], types: readonly RackType[], most: number): string[][] {
  const widths = new Map(types.map((t) => [t.id, t.width]));
  const rows: string[][] = [[]];
  let x = 0;
  for (const type of row) {
    const width = widths.get(type) ?? 0;
    if (x + width > most && x > 0) {
      rows.push([]);
      x = 0;
    }
    rows.at(-1)!.push(type);
    x += width + BETWEEN_MODULES;
  }
  return rows;
}

/**
 * The rows that a sheet has room for: what goes beyond its right edge begins another row, and rows beyond its lower edge are
 * left out.
 */
function withRoom(
  rows: readonly (readonly string[])[],
  types: readonly RackType[],
  rowHeight: number,
  beside: number,
): string[][] {
  const broken = rows.flatMap((row) => inRows(row, types, LARGEST_SHEET - MARGIN));
  const most = Math.floor((LARGEST_SHEET - MARGIN - beside) / rowHeight);
  return broken.slice(0, Math.max(1, Math.min(MOST_CABINET_ROWS, most)));
}

/** Where modules of these types stand in rows, from left to right: a row that holds what it held leaves it where a hand put it. */
function placedIn(
  rows: readonly (readonly string[])[],
  types: readonly RackType[],
  was: Rack | undefined,
  others: readonly string[],
): Placed[] {
  const widths = new Map(types.map((t) => [t.id, t.width]));
  const before = [...(was?.placed ?? [])].sort((a, b) => a.row - b.row || a.at - b.at);
  const left = [...before];
  const placed: Placed[] = [];
  rows.forEach((row, r) => {
    const there = row.map((type): Placed => {
      // One that stood in this row, else any other of the type.
      const same = left.find((p) => p.type === type && p.row === r);
      const old = same ?? left.find((p) => p.type === type && (rows[p.row] ?? []).length === 0);
      if (old) left.splice(left.indexOf(old), 1);
      const id = old?.id ?? freeModuleId([...placed, ...before], type, others);
      const one = { id, type, row: r, at: old?.row === r ? old.at : -1 };
      placed.push(one);
      return one;
    });
    const kept = there.every(
      (one, i) =>
        one.at >= 0 &&
        (i === 0 || one.at >= there[i - 1]!.at + (widths.get(there[i - 1]!.type) ?? 0)),
    );
    let x = 0;
    for (const one of there) {
      if (!kept) one.at = x;
      x = one.at + (widths.get(one.type) ?? 0) + BETWEEN_MODULES;
    }
  });
  return placed;
}

/** Height of all rows of a cabinet. */
export const cabinetHeight = (rack: Rack | undefined): number =>
  rack ? rack.rows * rack.rowHeight : 0;
