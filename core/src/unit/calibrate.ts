import type { Setting } from '../reading/setting';
import type { ContinuousControl, Control, Instrument, Taper } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import type { Patch } from '../patch/schema';
import { formatValue } from '../reading/format';
import { readingTolerance, roundPosition, snap } from '../reading/resolution';
import { taperBounds, taperPosition, taperValue } from '../reading/taper';
import { formatPhysical } from '../reading/unit';
import type { CalibrationPoint, Unit } from './schema';

/** Places along the travel at which a calibrated taper is written down, ends included. */
const PLACES = 17;

/** Why a control's calibration cannot be, in words; undefined when it can. */
export function calibrationFault(
  control: Control | undefined,
  points: readonly CalibrationPoint[],
): string | undefined {
  if (!control) return 'The instrument has no such control.';
  if (isSwitched(control) || control.bindings.length === 0) {
    return `${control.name} has no physical value that could be measured.`;
  }
  const sorted = [...points].sort((a, b) => a.at - b.at);
  if (sorted.some((p, i) => i > 0 && p.at === sorted[i - 1]!.at)) {
    return `${control.name} is measured twice at the same place.`;
  }
  const { taper } = control.bindings[0]!;
  if (taper.kind === 'exponential' && points.some((p) => p.value <= 0)) {
    return `${control.name} counts by ratios: a value of it is above 0.`;
  }
  const [low, high] = [taperValue(taper, 0), taperValue(taper, 1)];
  const values = calibratedPoints(control, points).map((p) => p[1]);
  const rises = high > low;
  if (!values.every((v, i) => i === 0 || (rises ? v > values[i - 1]! : v < values[i - 1]!))) {
    return `The points of ${control.name} contradict each other: its value must ${rises ? 'rise' : 'fall'} all along the travel.`;
  }
  return undefined;
}

/**
 * A taper with a unit's calibration laid over it: what was measured at the measured places, between them the nominal taper
 * moved by what lies between (in octaves for what counts by ratios), beyond them by what the last one is off.
 */
export function calibratedTaper(
  control: ContinuousControl,
  points: readonly CalibrationPoint[],
): Taper {
  const { taper } = control.bindings[0]!;
  return { kind: 'table', points: calibratedPoints(control, points), unit: taper.unit };
}

function calibratedPoints(
  control: ContinuousControl,
  points: readonly CalibrationPoint[],
): [number, number][] {
  const { taper } = control.bindings[0]!;
  const byRatio = taper.kind === 'exponential';
  const into = (v: number): number => (byRatio ? Math.log2(v) : v);
  const back = (v: number): number => (byRatio ? 2 ** v : v);
  const sorted = [...points].sort((a, b) => a.at - b.at);
  const off = sorted.map((p) => into(p.value) - into(taperValue(taper, p.at)));
  const offAt = (at: number): number => {
    const next = sorted.findIndex((p) => p.at >= at);
    if (next < 0) return off.at(-1)!;
    if (next === 0 || sorted[next]!.at === at) return off[next]!;
    const [a, b] = [sorted[next - 1]!, sorted[next]!];
    const share = (at - a.at) / (b.at - a.at);
    return off[next - 1]! + share * (off[next]! - off[next - 1]!);
  };
  const places = new Set(sorted.map((p) => p.at));
  for (let i = 0; i < PLACES; i++) places.add(i / (PLACES - 1));
  return [...places]
    .sort((a, b) => a - b)
    .map((at) => [at, back(into(taperValue(taper, at)) + offAt(at))]);
}

/** An instrument as one unit of it really is: calibrated controls turn their first parameter as it was measured. */
export function unitFace(instrument: Instrument, unit: Pick<Unit, 'calibration'>): Instrument {
  const measured = Object.keys(unit.calibration).length > 0;
  if (!measured) return instrument;
  const controls = instrument.controls.map((control) => {
    const points = unit.calibration[control.id];
    if (!points || isSwitched(control) || control.bindings.length === 0) return control;
    const [first, ...others] = control.bindings;
    return {
      ...control,
      bindings: [{ ...first!, taper: calibratedTaper(control, points) }, ...others],
    };
  });
  return { ...instrument, controls };
}

/** A control's place on one unit, told for another. */
export interface Translation {
  control: string;
  from: string;
  to: string;
  /** Place on the other unit, snapped to what its panel resolves. */
  value: number;
  /** What the other unit cannot reach, or the panel cannot resolve, in physical words; empty within the reading's own tolerance. */
  error: string;
}

/**
 * Readings of a patch that stand elsewhere on another unit: the same physical value, read there, with the error that is
 * left. Controls that neither unit has calibrated read the same, and are left out.
 */
export function translate(
  instrument: Instrument,
  patch: Pick<Patch, 'settings'>,
  from: Pick<Unit, 'calibration'>,
  to: Pick<Unit, 'calibration'>,
): Translation[] {
  const [a, b] = [unitFace(instrument, from), unitFace(instrument, to)];
  return instrument.controls.flatMap((control, i) => {
    const setting = patch.settings[control.id];
    const measured = from.calibration[control.id] ?? to.calibration[control.id];
    if (!setting || setting.kind === 'any' || !measured || isSwitched(control)) return [];
    const position =
      setting.kind === 'set' ? setting.value : setting.kind === 'ear' ? setting.near : setting.best;
    if (typeof position !== 'number') return [];
    const value = placeOn(a.controls[i]!, b.controls[i]!, position);
    return [
      {
        control: control.id,
        from: formatValue(control, position),
        to: formatValue(control, value),
        value,
        error: leftOver(a.controls[i]!, b.controls[i]!, position, value),
      },
    ];
  });
}

/** A patch's settings as they read on another unit: ranges and targets travel along. */
export function translatedSettings(
  instrument: Instrument,
  patch: Pick<Patch, 'settings'>,
  from: Pick<Unit, 'calibration'>,
  to: Pick<Unit, 'calibration'>,
): Record<string, Setting> {
  const [a, b] = [unitFace(instrument, from), unitFace(instrument, to)];
  const moved = { ...patch.settings };
  instrument.controls.forEach((control, i) => {
    const setting = moved[control.id];
    const measured = from.calibration[control.id] ?? to.calibration[control.id];
    if (!setting || !measured || isSwitched(control)) return;
    const place = (p: number): number => placeOn(a.controls[i]!, b.controls[i]!, p);
    if (setting.kind === 'set' && typeof setting.value === 'number') {
      moved[control.id] = { ...setting, value: place(setting.value) };
    } else if (setting.kind === 'ear' && typeof setting.near === 'number') {
      moved[control.id] = { ...setting, near: place(setting.near) };
    } else if (setting.kind === 'range') {
      const [x, y, best] = [place(setting.from), place(setting.to), place(setting.best)];
      moved[control.id] = {
        ...setting,
        from: roundPosition(Math.min(x, y, best)),
        to: roundPosition(Math.max(x, y, best)),
        best,
      };
    }
  });
  return moved;
}

const taperOf = (control: Control): Taper => (control as ContinuousControl).bindings[0]!.taper;

/** Where the other unit gives what this one gives at a place. */
function placeOn(from: Control, to: Control, position: number): number {
  const wanted = taperValue(taperOf(from), position);
  const [low, high] = taperBounds(taperOf(to));
  const held = Math.min(Math.max(low, high), Math.max(Math.min(low, high), wanted));
  return snap(to as ContinuousControl, taperPosition(taperOf(to), held) ?? position);
}

function leftOver(from: Control, to: Control, position: number, value: number): string {
  const wanted = taperValue(taperOf(from), position);
  const given = taperValue(taperOf(to), value);
  const tolerance = readingTolerance(to, value);
  const [least, most] = [value - tolerance, value + tolerance].map((p) =>
    taperValue(taperOf(to), Math.min(1, Math.max(0, p))),
  ) as [number, number];
  if (wanted >= Math.min(least, most) && wanted <= Math.max(least, most)) return '';
  const { unit } = taperOf(to);
  return `${formatPhysical(given, unit)} instead of ${formatPhysical(wanted, unit)}`;
}
