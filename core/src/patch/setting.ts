import type { Setting } from '../reading/setting';
import type { Control, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { soundingValue } from '../reading/format';
import { readingTolerance, roundPosition } from '../reading/resolution';

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

/** A setting turned into another kind, keeping the place it stands at; null for not recorded. */
export function settingAs(
  control: Control,
  before: Setting | undefined,
  kind: SettingKind,
): Setting | null {
  const value = soundingValue(control, before);
  switch (kind) {
    case 'none':
      return null;
    case 'any':
      return { kind: 'any' };
    case 'set':
      return { kind: 'set', value };
    case 'ear':
      return { kind: 'ear', near: value, target: 'until it sounds right' };
    case 'range': {
      if (isSwitched(control) || typeof value === 'string') return { kind: 'set', value };
      const reach = 2 * readingTolerance(control, value);
      return {
        kind: 'range',
        from: roundPosition(Math.max(0, value - reach)),
        to: roundPosition(Math.min(1, value + reach)),
        best: value,
      };
    }
  }
}
