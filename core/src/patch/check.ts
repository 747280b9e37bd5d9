import type { Setting } from '../reading/setting';
import type { Problem } from '../document/problem';
import type { Control, Instrument, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { panelOf } from '../instrument/panel-of';
import { checkPlaced } from '../instrument/placed';
import type { Pattern } from '../pattern/pattern';
import { checkFeed } from './check-feed';
import { checkOutboard } from './check-outboard';
import type { Cable, MatrixRow, Patch } from './schema';

/**
 * Checks a patch against its instrument: every control, position, section, jack, matrix row and cabinet module it names
 * must be there.
 */
export function checkPatch(patch: Patch, definition: Instrument): Problem[] {
  const instrument = panelOf(definition, patch);
  const problems: Problem[] = [];
  const report = (pointer: string, message: string): void =>
    void problems.push({ pointer, message });
  if (patch.instrument !== instrument.id) {
    report('/instrument', `The patch is for "${patch.instrument}", not for "${instrument.id}".`);
  }
  if (patch.revision !== undefined && !instrument.revisions.some((r) => r.id === patch.revision)) {
    report('/revision', `${instrument.name} has no revision "${patch.revision}".`);
  }
  checkOutboard(patch, definition, report);
  checkFeed(patch, definition, report);
  checkStored(patch, instrument, report);
  const controls = new Map(instrument.controls.map((c) => [c.id, c]));
  const sections = new Set(instrument.sections.map((s) => s.id));
  for (const [id, setting] of Object.entries(patch.settings)) {
    const pointer = `/settings/${id}`;
    const control = controls.get(id);
    if (!control) report(pointer, `${instrument.name} has no control "${id}".`);
    else checkSetting(setting, control, pointer, report);
  }
  for (const key of Object.keys(patch.notes)) {
    const [kind, id = ''] = key.split(':');
    const known = kind === 'control' ? controls.has(id) : sections.has(id);
    if (!known) report(`/notes/${key}`, `${instrument.name} has no ${kind} "${id}".`);
  }
  patch.checkpoints.forEach((checkpoint, i) => {
    if (!sections.has(checkpoint.after)) {
      report(`/checkpoints/${i}/after`, `There is no section "${checkpoint.after}".`);
    }
  });
  checkCables(patch.cables, instrument, '/cables', report);
  checkRows(patch.matrix, instrument, '/matrix', report);
  checkRack(patch, instrument, report);
  for (const id of Object.keys(patch.ends)) {
    if (!controls.has(id) && !KEY_CONTROLLERS.has(id))
      report(`/ends/${id}`, `${instrument.name} has no control "${id}".`);
  }
  patch.patterns.forEach((pattern, i) =>
    checkPattern(pattern, `/patterns/${i}`, instrument, report),
  );
  patch.variations.forEach((variation, i) => {
    const pointer = `/variations/${i}`;
    for (const [id, setting] of Object.entries(variation.settings)) {
      const control = controls.get(id);
      const at = `${pointer}/settings/${id}`;
      if (!control) report(at, `${instrument.name} has no control "${id}".`);
      else checkSetting(setting, control, at, report);
    }
    const { revision } = variation;
    if (revision !== undefined && !instrument.revisions.some((r) => r.id === revision))
      report(`${pointer}/revision`, `${instrument.name} has no revision "${revision}".`);
    variation.pulled.forEach((id, k) => {
      if (!patch.cables.some((c) => c.id === id)) {
        report(`${pointer}/pulled/${k}`, `The patch has no cable "${id}".`);
      }
    });
    checkCables(variation.plugged, instrument, `${pointer}/plugged`, report);
    checkRows(variation.rows, instrument, `${pointer}/rows`, report);
  });
  return problems;
}

/** The place that a patch is stored in must be one of the instrument's. */
function checkStored({ stored }: Patch, { memory, name }: Instrument, report: Report): void {
  if (!stored) return;
  if (memory.kind === 'none') report('/stored', `${name} has no memory.`);
  else if (stored.bank > memory.banks) report('/stored/bank', `${name} has ${memory.banks} banks.`);
  else if (stored.slot > memory.slots)
    report('/stored/slot', `A bank of ${name} has ${memory.slots} places.`);
}

/** Hands that are no control of a panel. */
const KEY_CONTROLLERS = new Set(['velocity', 'pressure', 'bend']);

type Report = (pointer: string, message: string) => void;

function checkCables(
  cables: readonly Cable[],
  instrument: Instrument,
  pointer: string,
  report: Report,
): void {
  const seen = new Set<string>();
  cables.forEach((cable, i) => {
    if (seen.has(cable.id)) report(`${pointer}/${i}/id`, `"${cable.id}" is used twice.`);
    seen.add(cable.id);
    if (cable.from === undefined && cable.to === undefined) {
      report(`${pointer}/${i}`, 'A cable ends in at least one jack.');
    }
    for (const [end, direction] of [
      ['from', 'out'],
      ['to', 'in'],
    ] as const) {
      const id = cable[end];
      if (id === undefined) continue;
      const jack = instrument.jacks.find((j) => j.id === id);
      if (!jack) report(`${pointer}/${i}/${end}`, `There is no jack "${id}".`);
      else if (jack.direction !== direction) {
        report(
          `${pointer}/${i}/${end}`,
          `"${id}" ${direction === 'out' ? 'takes a signal' : 'gives a signal'}: it belongs at the other end.`,
        );
      }
    }
  });
}

function checkRows(
  rows: readonly MatrixRow[],
  { matrix, name }: Instrument,
  pointer: string,
  report: Report,
): void {
  const seen = new Set<number>();
  rows.forEach((row, i) => {
    const at = `${pointer}/${i}`;
    if (!matrix) return report(at, `${name} has no matrix.`);
    if (row.row >= matrix.rows) report(`${at}/row`, `The matrix has ${matrix.rows} rows.`);
    if (seen.has(row.row)) report(`${at}/row`, `Row ${row.row} is there twice.`);
    seen.add(row.row);
    if (!matrix.sources.some((s) => s.id === row.source)) {
      report(`${at}/source`, `The matrix has no source "${row.source}".`);
    }
    if (!matrix.destinations.some((d) => d.id === row.destination)) {
      report(`${at}/destination`, `The matrix has no destination "${row.destination}".`);
    }
    const fixed = matrix.fixed[row.row];
    if (fixed && (fixed.source !== row.source || fixed.destination !== row.destination)) {
      report(at, `Row ${row.row} is wired from "${fixed.source}" to "${fixed.destination}".`);
    }
  });
}

function checkRack(patch: Patch, instrument: Instrument, report: Report): void {
  if (patch.rack === undefined) return;
  if (!instrument.rack) return report('/rack', `${instrument.name} is no cabinet.`);
  for (const fault of checkPlaced(patch.rack, instrument.rack)) {
    report(`/rack${fault.pointer}`, fault.message);
  }
}

function checkSetting(
  setting: Setting,
  control: Control,
  pointer: string,
  report: (pointer: string, message: string) => void,
): void {
  const check = (value: Value, at: string): void => {
    if (isSwitched(control)) {
      if (!control.positions.some((p) => p.id === value)) {
        report(at, `${control.name} has no position "${value}".`);
      }
    } else if (typeof value !== 'number') {
      report(at, `${control.name} moves continuously: expected a share of travel, 0 to 1.`);
    }
  };
  if (setting.kind === 'set') check(setting.value, `${pointer}/value`);
  if (setting.kind === 'ear') check(setting.near, `${pointer}/near`);
  if (setting.kind === 'range' && isSwitched(control)) {
    report(pointer, `${control.name} has positions: it cannot be set within a range.`);
  }
}

/** What a pattern names must be there; whether the box can hold it is told where it is edited, and stops nobody. */
function checkPattern(
  pattern: Pattern,
  pointer: string,
  instrument: Instrument,
  report: (pointer: string, message: string) => void,
): void {
  const sequencer = instrument.sequencers.find((s) => s.id === pattern.sequencer);
  if (pattern.sequencer !== undefined && !sequencer) {
    report(`${pointer}/sequencer`, `${instrument.name} has no sequencer "${pattern.sequencer}".`);
  }
  const controls = new Map(instrument.controls.map((c) => [c.id, c]));
  pattern.tracks.forEach((track, t) => {
    const at = `${pointer}/tracks/${t}`;
    if (track.on !== undefined && !sequencer?.tracks.some((s) => s.id === track.on)) {
      report(`${at}/on`, `The sequencer has no track "${track.on}".`);
    }
    for (const row of Object.keys(track.rows)) {
      if (!sequencer?.rows.some((r) => r.id === row)) {
        report(`${at}/rows/${row}`, `The sequencer has no row "${row}".`);
      }
    }
    track.steps.forEach((step, i) => {
      for (const [id, value] of Object.entries(step.ownValues ?? {})) {
        const where = `${at}/steps/${i}/ownValues/${id}`;
        const control = controls.get(id);
        if (!control) report(where, `${instrument.name} has no control "${id}".`);
        else checkSetting({ kind: 'set', value }, control, where, report);
      }
    });
  });
}
