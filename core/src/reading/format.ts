import type { Setting } from './setting';
import type { Control, PhysicalUnit, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { positionToClock } from './dial';
import { readingStyle, scaleDecimals } from './resolution';
import { displayText, numbersOf, printedText } from './shown-number';
import { meanings, scaleReading } from './taper';
import { formatPhysical, formatTrimmed } from './unit';

/** What one reads on the panel at a value: `6.5`, `2:30`, `412 ms`, `70%`, `pulse`. */
export function formatValue(control: Control, value: Value): string {
  if (isSwitched(control)) {
    return control.positions.find((p) => p.id === value)?.name ?? String(value);
  }
  const position = Number(value);
  switch (readingStyle(control)) {
    case 'display':
      return displayText(control, numbersOf(control)!.value(position));
    case 'printed': {
      const scale = control.scale!;
      return printedText(scale, scaleReading(scale, position), scaleDecimals(scale.division) + 1);
    }
    case 'clock':
      return positionToClock(position, control.sweep);
    case 'percent':
      return `${formatTrimmed(position * 100, 1)}%`;
  }
}

/** A setting in one line: `3.5–4, best 3.7`, `near 2:30 until the beat stops`, `any`; `?` when not recorded. */
export function formatSetting(control: Control, setting: Setting | undefined): string {
  if (!setting) return '?';
  switch (setting.kind) {
    case 'set':
      return formatValue(control, setting.value);
    case 'range':
      return `${formatValue(control, setting.from)}–${formatValue(control, setting.to)}, best ${formatValue(control, setting.best)}`;
    case 'ear':
      return `near ${formatValue(control, setting.near)}, ${setting.target}`;
    case 'any':
      return 'any';
  }
}

/** Text that the reading parser turns into the same setting again, within what the panel resolves. */
export function readingText(control: Control, setting: Setting | undefined): string {
  if (!setting) return '?';
  switch (setting.kind) {
    case 'set':
      return formatValue(control, setting.value);
    case 'range': {
      const places = [setting.from, setting.to, setting.best] as const;
      const [from, to, best] = places.map((p) => formatValue(control, p));
      if (from !== to) return `${from} to ${to} best ${best}`;
      // Narrower than the panel is read: as finely as it takes, so that it stays a range.
      const [low, high, mid] = places.map((p) => finely(control, p));
      return `${low} to ${high} best ${mid}`;
    }
    case 'ear':
      return `~${formatValue(control, setting.near)} ${setting.target}`;
    case 'any':
      return '*';
  }
}

/** A place more finely than it is read on the panel: in printed numbers, else in per cent of the travel. */
function finely(control: Control, position: number): string {
  if (isSwitched(control) || readingStyle(control) === 'display')
    return formatValue(control, position);
  if (readingStyle(control) === 'printed')
    return printedText(control.scale!, scaleReading(control.scale!, position), 9);
  return `${formatTrimmed(position * 100, 7)}%`;
}

/** A physical value that a control stands for. */
export interface PhysicalValue {
  value: number;
  unit: PhysicalUnit;
  text: string;
}

/** What a value means in hertz, seconds, cents ...; undefined for switches and controls bound to nothing. */
export function physicalValue(control: Control, value: Value): PhysicalValue | undefined {
  if (isSwitched(control) || typeof value === 'string') return undefined;
  const meaning = meanings(control)[0];
  if (!meaning) return undefined;
  const physical = meaning.value(value);
  return {
    value: physical,
    unit: meaning.unit,
    text: formatPhysical(physical, meaning.unit),
  };
}

/** The value a setting sounds with: its own, its best guess, where it is near; else where the control rests. */
export function soundingValue(control: Control, setting: Setting | undefined): Value {
  if (!setting || setting.kind === 'any') return control.rest;
  if (setting.kind === 'set') return setting.value;
  return setting.kind === 'range' ? setting.best : setting.near;
}
