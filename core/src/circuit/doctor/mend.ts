import type { Setting } from '../../reading/setting';
import type { Instrument, Value } from '../../instrument/schema';
import { isSwitched } from '../../instrument/switched';
import { initPositions } from '../../patch/create';
import { formatValue } from '../../reading/format';
import { snap } from '../../reading/resolution';
import { taperPosition, taperValue } from '../../reading/taper';
import { type Mend } from './finding';
import { controlLabel } from '../../instrument/control-name';

const exactly = (value: Value): Setting => ({ kind: 'set', value });

/** A mend that sets controls to values, told in the panel's readings. */
export function mendTo(instrument: Instrument, values: Record<string, Value>): Mend | undefined {
  const entries = Object.entries(values);
  if (entries.length === 0) return undefined;
  const told = entries.map(([id, value]) => {
    const control = instrument.controls.find((c) => c.id === id)!;
    return `${controlLabel(instrument, id)} to ${formatValue(control, value)}`;
  });
  return {
    text: `Set ${told.join(' and ')}`,
    settings: Object.fromEntries(entries.map(([id, value]) => [id, exactly(value)])),
  };
}

/** Where a control opens what it had closed: its place in the init patch when that is open, else 70 % of its travel. */
export function openValue(instrument: Instrument, id: string): Value | undefined {
  const control = instrument.controls.find((c) => c.id === id);
  if (!control || isSwitched(control)) return undefined;
  const bound = control.bindings[0];
  const init = Number(initPositions(instrument)[id]);
  return bound && taperValue(bound.taper, init) !== 0 ? init : snap(control, 0.7);
}

/**
 * The value at which a control gives a parameter a physical value, held inside its travel and snapped to what the panel
 * resolves; undefined when the control does not set that parameter continuously.
 */
export function valueFor(
  instrument: Instrument,
  id: string | undefined,
  module: string,
  param: string,
  physical: number,
): number | undefined {
  const control = instrument.controls.find((c) => c.id === id);
  if (!control || isSwitched(control)) return undefined;
  const bound = control.bindings.find((b) => b.module === module && b.param === param);
  if (!bound) return undefined;
  const ends = [taperValue(bound.taper, 0), taperValue(bound.taper, 1)];
  const held = Math.min(Math.max(...ends), Math.max(Math.min(...ends), physical));
  return snap(control, taperPosition(bound.taper, held) ?? 0);
}

/** Several mends as one, told one after the other. */
export const merged = (mends: readonly Mend[]): Mend => ({
  text: mends.map((m, i) => (i === 0 ? m.text : lowered(m.text))).join(', and '),
  settings: Object.assign({}, ...mends.map((m) => m.settings)) as Mend['settings'],
  pull: mends.flatMap((m) => m.pull ?? []),
  plug: mends.flatMap((m) => m.plug ?? []),
  rows: mends.flatMap((m) => m.rows ?? []),
});

const lowered = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
