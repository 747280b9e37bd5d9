import { panelOf } from '../instrument/panel-of';
import type { Placed } from '../instrument/rack';
import type { Instrument, Rack } from '../instrument/schema';
import { instrumentOf } from './instrument';
import { blocksOf, ROWS } from './lines';
import { givingWay } from './module-focus';
import { outlineOf, rowsIn } from './outline-of';
import { readOutline } from './read';
import { withCabinet } from './with-cabinet';

/** A cabinet as a hand moves it about: each module that stands in it a section like the others, with nothing in it. */
export function standing(instrument: Instrument): Instrument {
  const { rack, ...rest } = instrument;
  return rack ? { ...rest, sections: panelOf(instrument).sections } : instrument;
}

/**
 * The cabinet with its modules in the rows that they were moved to, and everything else where it was put. Whatever one is
 * put upon gives way to the right. A module keeps its size: that is its type's.
 * @param moved as `standing` showed it, with sections moved
 */
export function withStanding(instrument: Instrument, moved: Instrument): Instrument {
  const { rack } = instrument;
  if (!rack) return moved;
  const ids = new Set(rack.placed.map((p) => p.id));
  const at = new Map(moved.sections.map((s) => [s.id, s]));
  const before = new Map(standing(instrument).sections.map((s) => [s.id, s]));
  const taken = new Set(
    [...ids].filter(
      (id) => at.get(id)?.x !== before.get(id)?.x || at.get(id)?.y !== before.get(id)?.y,
    ),
  );
  const placed = rack.placed.map((one): Placed => {
    const section = at.get(one.id);
    if (!section || !taken.has(one.id)) return one;
    const row = Math.min(rack.rows - 1, Math.max(0, Math.round(section.y / rack.rowHeight)));
    return { ...one, row, at: Math.max(0, section.x) };
  });
  const put = givingWay(rack, placed).sort((a, b) => a.row - b.row || a.at - b.at);
  const cabinet = { ...rack, placed: put };
  const sections = moved.sections.filter((s) => !ids.has(s.id));
  const made = withCabinet({ ...moved, sections }, cabinet, instrument, true);
  return { ...made, panel: { ...made.panel, arranged: true }, ...rowsWritten(instrument, cabinet) };
}

/** The words of the whole with the rows as they are now. */
function rowsWritten(instrument: Instrument, rack: Rack): Pick<Instrument, 'outline'> {
  const text = instrument.outline;
  if (text === undefined) return {};
  const rows = rowsIn(rack);
  const said = readOutline(text).outline.rows;
  if (said && JSON.stringify(said) === JSON.stringify(rows)) return { outline: text };
  return { outline: withRows(text, rows) };
}

/** Words with other rows, at the end. */
function withRows(text: string, rows: readonly (readonly string[])[]): string {
  const lines = text.split(/\r?\n/);
  const kept = blocksOf(text).reduceRight(
    (all, b) => (b.name === ROWS ? [...all.slice(0, b.from), ...all.slice(b.to)] : all),
    lines,
  );
  const written = rows.map((row) => `${ROWS} ${row.join(', ')}`.trimEnd());
  return [kept.join('\n').trimEnd(), written.join('\n')].join('\n\n');
}

/** The cabinet with one more module of a type at the end of a row; a row behind the last one is a new one. */
export function withOneMore(instrument: Instrument, type: string, row: number): Instrument {
  const { rack } = instrument;
  const name = rack?.types.find((t) => t.id === type)?.name;
  if (!rack || name === undefined) return instrument;
  const rows = rowsIn(rack);
  return reread(
    instrument,
    row >= rows.length ? [...rows, [name]] : rows.map((r, i) => (i === row ? [...r, name] : r)),
  );
}

/** The cabinet without modules that stand in it. */
export function withoutPlaced(instrument: Instrument, ids: ReadonlySet<string>): Instrument {
  const { rack } = instrument;
  if (!rack) return instrument;
  const placed = rack.placed.filter((p) => !ids.has(p.id));
  // Told as it is now, so that what stays keeps its id.
  return reread({ ...instrument, rack: { ...rack, placed } }, rowsIn({ ...rack, placed }));
}

function reread(instrument: Instrument, rows: readonly (readonly string[])[]): Instrument {
  const outline = { ...outlineOf(instrument), rows: rows.map((row) => [...row]) };
  const text = withRows(instrument.outline ?? '', rows);
  return instrumentOf(outline, text, instrument);
}
