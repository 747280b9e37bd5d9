import { panelOf } from '../instrument/panel-of';
import type { Instrument } from '../instrument/schema';
import type { Patch } from '../patch/schema';
import { translatedSettings } from '../unit/calibrate';
import type { Unit } from '../unit/schema';
import type { StagePanel } from './schema';
import type { Recorded } from './ways';

/** What was measured of units, by their ids. */
export type Calibrations = Readonly<Record<string, Pick<Unit, 'calibration'>>>;

const AS_PRINTED: Pick<Unit, 'calibration'> = { calibration: {} };

/**
 * A patch as it reads on a unit: where its dials and those of the unit on which it was recorded differ by what was measured, the
 * same values are read elsewhere. Of a panel of which nobody has said which unit it is, and of a unit of which nothing was
 * measured, its dials are taken at their word.
 * @param unit of the panel; absent: nobody has said
 * @param face the panel that the patch is recorded on
 */
export function patchReadOn(
  units: Calibrations,
  unit: string | undefined,
  patch: Patch,
  face: Instrument,
): Patch {
  if (unit === undefined || patch.unit === unit) return patch;
  const [from, to] = [patch.unit === undefined ? undefined : units[patch.unit], units[unit]];
  if (!from && !to) return patch;
  const settings = translatedSettings(face, patch, from ?? AS_PRINTED, to ?? AS_PRINTED);
  return { ...patch, settings };
}

/** The same of a patch with its instrument. */
export function readOn(
  units: Calibrations,
  unit: string | undefined,
  recorded: Recorded,
): Recorded {
  const { patch, instrument } = recorded;
  if (unit === undefined || patch.unit === unit) return recorded;
  const read = patchReadOn(units, unit, patch, panelOf(instrument, patch));
  return read === patch ? recorded : { instrument, patch: read };
}

/** Units of which it has to be known what was measured: none where no panel is one. */
export function unitsNamed(
  panels: readonly Pick<StagePanel, 'unit'>[],
  library: readonly Recorded[],
): string[] {
  if (panels.every((p) => p.unit === undefined)) return [];
  const all = [...panels, ...library.map((r) => r.patch)].map((of) => of.unit);
  return [...new Set(all.filter((unit) => unit !== undefined))];
}
