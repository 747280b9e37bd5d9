import type { Control, Value } from '../../instrument/schema';
import { isSwitched } from '../../instrument/switched';
import { readsAs } from '../../instrument/meaning';
import { formatValue } from '../../reading/format';
import { parseReading } from '../../reading/parse';
import type { Setting } from '../../reading/setting';

/** What is done with a reading that the scale has not got: the nearest one, the same share of travel, or nothing recorded. */
export const BEYOND = ['nearest', 'travel', 'out'] as const;
export type Beyond = (typeof BEYOND)[number];

/** A value on a control that is described anew; undefined when it has no such reading or position. */
export function carriedValue(
  before: Control,
  after: Control,
  value: Value,
  beyond?: Beyond,
): Value | undefined {
  if (isSwitched(before) || isSwitched(after)) return carriedPosition(before, after, value);
  if (typeof value !== 'number') return undefined;
  if (readsAs(before) === readsAs(after)) return value;
  const read = parseReading(formatValue(before, value), after);
  if (read.ok && read.setting?.kind === 'set') return read.setting.value;
  if (beyond === 'travel') return value;
  return beyond === 'nearest' ? nearestEnd(before, after, value) : undefined;
}

function carriedPosition(before: Control, after: Control, value: Value): Value | undefined {
  if (!isSwitched(before) || !isSwitched(after)) return undefined;
  if (after.positions.some((p) => p.id === value)) return value;
  const name = before.positions.find((p) => p.id === value)?.name.toLowerCase();
  const same = after.positions.filter((p) => p.name.toLowerCase() === name);
  return same.length === 1 ? same[0]!.id : undefined;
}

/** The end of travel whose reading is nearer to that which is wanted. */
function nearestEnd(before: Control, after: Control, value: number): number {
  const number = (control: Control, at: number): number =>
    Number.parseFloat(formatValue(control, at).replace(',', ''));
  const wanted = number(before, value);
  const [low, high] = [number(after, 0), number(after, 1)];
  return Math.abs(wanted - low) <= Math.abs(wanted - high) ? 0 : 1;
}

/** A setting with every value in it carried; undefined when one of them cannot be. */
export function carriedSetting(
  setting: Setting,
  carry: (value: Value) => Value | undefined,
): Setting | undefined {
  switch (setting.kind) {
    case 'any':
      return setting;
    case 'set': {
      const value = carry(setting.value);
      return value === undefined ? undefined : { ...setting, value };
    }
    case 'ear': {
      const near = carry(setting.near);
      return near === undefined ? undefined : { ...setting, near };
    }
    case 'range': {
      const [from, best, to] = [setting.from, setting.best, setting.to].map(carry);
      if (typeof from !== 'number' || typeof best !== 'number' || typeof to !== 'number')
        return undefined;
      // A scale that runs the other way turns the range round.
      const [low, middle, high] = [from, best, to].sort((a, b) => a - b) as [
        number,
        number,
        number,
      ];
      return { kind: 'range', from: low, best: middle, to: high };
    }
  }
}
