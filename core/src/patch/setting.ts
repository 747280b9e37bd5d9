import type { Setting } from '../reading/setting';
import type { Control, Value } from '../instrument/schema';
import { formatValue, soundingValue } from '../reading/format';

/** The kinds of setting, and `none` for what is not recorded. */
export type SettingKind = Setting['kind'] | 'none';

/**
 * A setting once its control has been moved to a value. What is by ear stays by ear, a best guess stays inside its range;
 * moved out of the range, or from anything else, it is exact.
 */
export function settingWith(before: Setting | undefined, value: Value): Setting {
  if (before?.kind === 'ear') return { ...before, near: value };
  if (
    before?.kind === 'range' &&
    typeof value === 'number' &&
    value >= before.from &&
    value <= before.to
  ) {
    return { ...before, best: value };
  }
  return { kind: 'set', value };
}

/** A setting made exact, of no matter, or not recorded, at the place where it stands. */
export function settingAs(
  control: Control,
  before: Setting | undefined,
  kind: 'set' | 'any' | 'none',
): Setting | null {
  if (kind === 'none') return null;
  return kind === 'any' ? { kind } : { kind, value: soundingValue(control, before) };
}

/**
 * What to go on typing for a range or a setting by ear: what is recorded already, the rest is for whoever reads the panel.
 * Nothing that was not read is made up.
 */
export function beginText(
  control: Control,
  before: Setting | undefined,
  kind: 'range' | 'ear',
): string {
  const recorded = before && before.kind !== 'any';
  const at = recorded ? formatValue(control, soundingValue(control, before)) : '';
  if (kind === 'ear') return at === '' ? '~ ' : `~${at} `;
  return at === '' ? '' : `${at} to `;
}
