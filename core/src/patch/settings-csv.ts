import Papa from 'papaparse';
import { controlLabel } from '../instrument/control-name';
import { inWorkingOrder } from '../instrument/order';
import type { Instrument } from '../instrument/schema';
import { readingText } from '../reading/format';
import { parseReading } from '../reading/parse';
import type { Setting } from '../reading/setting';
import type { Patch } from './schema';

/** Settings of one column of a table. */
export interface SettingsColumn {
  name: string;
  /** By control; null: it says that nothing is recorded. */
  settings: Record<string, Setting | null>;
}

/** What a table of settings says, with every cell that was not understood. */
export interface SettingsTable {
  columns: SettingsColumn[];
  /** Line and column from 1, as a table program numbers them. */
  faults: { line: number; column: number; message: string }[];
}

/**
 * Settings of patches of one instrument as a table: a line a control in working order, by its id and in words, and a column
 * a patch, with the readings that the panel shows. RFC 4180, and nothing that a table would compute.
 */
export function settingsCsv(
  instrument: Instrument,
  patches: readonly Pick<Patch, 'name' | 'settings'>[],
): string {
  const data = inWorkingOrder(instrument).map((control) => [
    control.id,
    controlLabel(instrument, control.id),
    ...patches.map(({ settings }) => readingText(control, settings[control.id])),
  ]);
  const fields = ['control', 'in words', ...patches.map((p) => p.name)];
  return `${Papa.unparse({ fields, data }, { escapeFormulae: true })}\r\n`;
}

/** Ids that a table of settings has in its column of controls, in their order; none when it has no such column. */
export function controlsOfCsv(text: string): string[] {
  const { data } = parse(text);
  const at = controlColumn(data);
  return at < 0 ? [] : data.slice(1).map((cells) => plain(cells[at] ?? ''));
}

/**
 * Reads such a table, in any order of lines and columns: a column `control` with ids, and one for each patch. An empty cell
 * says nothing of its control; `?` says that it is not recorded.
 */
export function readSettingsCsv(text: string, instrument: Instrument): SettingsTable {
  const { data, errors } = parse(text);
  const faults: SettingsTable['faults'] = errors
    .filter((e) => e.type !== 'Delimiter')
    .map((e) => ({ line: (e.row ?? 0) + 1, column: 1, message: e.message }));
  const [head = [], ...lines] = data;
  const ids = controlColumn(data);
  if (ids < 0) {
    const message = 'The first line names no column "control".';
    return { columns: [], faults: [...faults, { line: 1, column: 1, message }] };
  }
  const controls = new Map(instrument.controls.map((c) => [c.id, c]));
  const at = head.flatMap((field, i) =>
    i === ids || ['in words', ''].includes(field.trim().toLowerCase()) ? [] : [i],
  );
  const columns = at.map((i): SettingsColumn => ({ name: plain(head[i]!), settings: {} }));
  lines.forEach((cells, l) => {
    const id = plain(cells[ids] ?? '');
    if (id === '') return;
    const refuse = (column: number, message: string): void =>
      void faults.push({ line: l + 2, column: column + 1, message });
    const control = controls.get(id);
    if (!control) return refuse(ids, `${instrument.name} has no control "${id}".`);
    at.forEach((i, k) => {
      const cell = plain(cells[i] ?? '');
      if (cell === '') return;
      const read = parseReading(cell, control);
      if (read.ok) columns[k]!.settings[id] = read.setting;
      else refuse(i, `${controlLabel(instrument, id)}, "${cell}": ${read.message}`);
    });
  });
  return { columns, faults };
}

const parse = (text: string) =>
  Papa.parse<string[]>(text.trim(), { delimitersToGuess: [',', ';', '\t'] });

const controlColumn = ([head = []]: readonly string[][]): number =>
  head.findIndex((field) => field.trim().toLowerCase() === 'control');

/** A cell without the sign that keeps a table from computing it. */
const plain = (cell: string): string => cell.trim().replace(/^'(?=[=+\-@])/, '');
