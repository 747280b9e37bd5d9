import type { Setting } from './setting';
import type { ContinuousControl, Control, SwitchedControl, Value } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import { midiToHz, midiToVolts, noteToMidi } from '../theory';
import { readClockWords } from './clock-words';
import { clockToPosition } from './dial';
import { formatValue, readingText, soundingValue } from './format';
import { readingStyle, roundPosition } from './resolution';
import { meanings, scaleBounds, scalePosition } from './taper';
import { formatPhysical, readUnit, UNIT_PATTERN } from './unit';

/** What a reading was understood as: a setting, or null for `?` (not recorded). */
export type ParsedReading =
  { ok: true; setting: Setting | null } | { ok: false; message: string; expected: string };

class ReadingError extends Error {}

const NUMBER = String.raw`[+-]?(?:\d+(?:[.,]\d+)?|[.,]\d+)`;
const QUANTITY = String.raw`\d{1,2}:\d{2}|(?:a )?(?:half|quarter) (?:past|to) \w+|\w+ o'clock|${NUMBER}\s*(?:(?:${UNIT_PATTERN})(?![a-z]))?|min|max|noon|[A-Ga-g][#b]?-?\d{1,2}`;
const SINGLE = new RegExp(`^(?:${QUANTITY})$`, 'i');
const RANGE = new RegExp(
  String.raw`^(?:somewhere\s+)?(?:from\s+|between\s+)?(${QUANTITY})\s*(?:-|–|\.\.|to\b|and\b)\s*(${QUANTITY})(?:,?\s*(?:best|@)\s*(${QUANTITY}))?$`,
  'i',
);
const EAR = new RegExp(String.raw`^~\s*((?:${QUANTITY})(?=\s|$))?\s*(.*)$`, 'i');
const AMOUNT = new RegExp(String.raw`^(${NUMBER})\s*(${UNIT_PATTERN})?$`, 'i');
const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/**
 * Reads what a person says of a control.
 *
 * Understands clock times (`2:30`, `half past two`), per cent (`70%`), the panel's own numbers (`6.5`), units (`412ms`,
 * `1.2 kHz`, `-7st`), notes (`A2`, for pitches and frequencies), `min`, `max`, `noon`, named positions by an unambiguous
 * beginning or by place (`#3`, `third`), ranges (`40-50%`, `3.5 to 4 best 3.7`), by ear (`~2:30 until the beat stops`),
 * `*` (does not matter) and `?` (not recorded).
 * @param current the setting so far: where a by-ear target stands when no place is given
 * @returns the setting, or what was wrong and what would have been understood
 */
export function parseReading(text: string, control: Control, current?: Setting): ParsedReading {
  try {
    return { ok: true, setting: read(clean(text), control, current) };
  } catch (error) {
    if (!(error instanceof ReadingError)) throw error;
    return { ok: false, message: error.message, expected: expectedReadings(control) };
  }
}

const clean = (text: string): string =>
  text.trim().replace(/[−‐‑]/g, '-').replace(/[’′]/g, "'").replace(/\s+/g, ' ');

function read(text: string, control: Control, current?: Setting): Setting | null {
  if (text === '') throw new ReadingError('Nothing was written.');
  if (text.length > 240) throw new ReadingError('That is too long for a reading.');
  if (text === '?') return null;
  if (text === '*' || text.toLowerCase() === 'any') return { kind: 'any' };
  if (text.startsWith('~')) return readEar(text, control, current);
  if (isSwitched(control)) return { kind: 'set', value: readPosition(text, control) };
  const range = RANGE.exec(text);
  if (range && !SINGLE.test(text)) return readRange(range, control);
  return { kind: 'set', value: readPlace(text, control) };
}

function readEar(text: string, control: Control, current?: Setting): Setting {
  const body = text.slice(1).trim();
  let near: Value | undefined;
  let target = body;
  if (isSwitched(control)) {
    const [first = '', ...rest] = body.split(' ');
    if (rest.length > 0 && matches(first, control).length === 1) {
      near = readPosition(first, control);
      target = rest.join(' ');
    }
  } else {
    const parts = EAR.exec(text)!;
    if (parts[1]) near = readPlace(parts[1].trim(), control);
    target = parts[2]!;
  }
  if (target === '') {
    throw new ReadingError(
      'By ear needs its target in words, for instance "~2:30 until the beat stops".',
    );
  }
  return { kind: 'ear', target, near: near ?? soundingValue(control, current) };
}

function readRange(parts: RegExpExecArray, control: ContinuousControl): Setting {
  const last = parts[2]!;
  const unit = AMOUNT.exec(last.trim())?.[2];
  // "40-50%": the unit behind the second number belongs to the first as well.
  const borrow = (quantity: string): string =>
    unit && AMOUNT.test(quantity.trim()) && !AMOUNT.exec(quantity.trim())![2]
      ? `${quantity}${unit}`
      : quantity;
  const ends = [readPlace(borrow(parts[1]!).trim(), control), readPlace(last.trim(), control)];
  const [from, to] = ends.sort((a, b) => a - b) as [number, number];
  const best = parts[3]
    ? readPlace(borrow(parts[3]).trim(), control)
    : roundPosition((from + to) / 2);
  if (best < from || best > to) {
    throw new ReadingError(`The best guess ${parts[3]} lies outside the range.`);
  }
  return from === to ? { kind: 'set', value: from } : { kind: 'range', from, to, best };
}

/** One place of a continuous control, as a share of its travel. */
function readPlace(text: string, control: ContinuousControl): number {
  const word = text.toLowerCase();
  if (word === 'min') return 0;
  if (word === 'max') return 1;
  if (word === 'noon' || word === 'middle') return 0.5;
  const time = readTime(text);
  if (time) return readClock(time, text, control);
  const amount = AMOUNT.exec(text);
  if (amount) {
    return readAmount(Number(amount[1]!.replace(',', '.')), amount[2], text, control);
  }
  const midi = noteToMidi(text);
  if (midi !== undefined) return readNote(midi, text, control);
  throw new ReadingError(`"${text}" is not a reading of ${control.name}.`);
}

function readTime(text: string): { hours: number; minutes: number } | undefined {
  const match = /^(\d{1,2}):(\d{2})$/.exec(text);
  return match ? { hours: Number(match[1]), minutes: Number(match[2]) } : readClockWords(text);
}

function readClock(
  time: { hours: number; minutes: number },
  text: string,
  control: ContinuousControl,
): number {
  if (control.kind === 'slider' || control.kind === 'wheel' || control.kind === 'pedal') {
    throw new ReadingError(`${control.name} is a ${control.kind}: it has no clock reading.`);
  }
  if (time.hours > 12 || time.minutes > 59) {
    throw new ReadingError(
      `"${text}" is not a time: hours run from 1 to 12, minutes from 00 to 59.`,
    );
  }
  const position = clockToPosition(time.hours, time.minutes, control.sweep);
  if (position === undefined) {
    throw new ReadingError(
      `${text} lies in the gap of the dial: it turns from ${formatClockEnd(control, 0)} to ${formatClockEnd(control, 1)}.`,
    );
  }
  return roundPosition(position);
}

const formatClockEnd = (control: ContinuousControl, end: 0 | 1): string =>
  formatValue({ ...control, kind: 'knob', scale: undefined, display: undefined }, end);

function readAmount(
  number: number,
  unitText: string | undefined,
  text: string,
  control: ContinuousControl,
): number {
  const style = readingStyle(control);
  if (!unitText) {
    if (style === 'printed') return onScale(number, text, control);
    if (style === 'display') return onTaper(number, text, control, 0);
    throw new ReadingError(`${control.name} has no numbers printed: ${text} of what?`);
  }
  const { unit, factor } = readUnit(unitText)!;
  const ownsPercent =
    control.scale?.unit === '%' || (style === 'display' && meanings(control)[0]!.unit === '%');
  if (unit === '%' && !ownsPercent) {
    if (number < 0 || number > 100) {
      throw new ReadingError(`${text} is outside the travel of 0 to 100 %.`);
    }
    return roundPosition(number / 100);
  }
  if (control.scale && control.scale.unit === unit) return onScale(number * factor, text, control);
  const bound = meanings(control).findIndex((m) => m.unit === unit);
  if (bound < 0) {
    const own = meanings(control)[0]?.unit;
    throw new ReadingError(
      own
        ? `${control.name} is not measured in ${unit}, but in ${own}.`
        : `${control.name} is not measured in ${unit}.`,
    );
  }
  return onTaper(number * factor, text, control, bound);
}

function onScale(number: number, text: string, control: ContinuousControl): number {
  const position = scalePosition(control.scale!, number);
  if (position === undefined) {
    const [lo, hi] = scaleBounds(control.scale!);
    throw new ReadingError(`${text} is off the scale, which runs from ${lo} to ${hi}.`);
  }
  return roundPosition(position);
}

function onTaper(number: number, text: string, control: ContinuousControl, bound: number): number {
  const meaning = meanings(control)[bound]!;
  const position = meaning.position(number);
  if (position === undefined) {
    const [lo, hi] = meaning.bounds.map((v) => formatPhysical(v, meaning.unit));
    throw new ReadingError(`${text} is out of reach: ${control.name} goes from ${lo} to ${hi}.`);
  }
  return roundPosition(position);
}

function readNote(midi: number, text: string, control: ContinuousControl): number {
  const hertz = meanings(control).findIndex((m) => m.unit === 'Hz');
  if (hertz >= 0) return onTaper(midiToHz(midi), text, control, hertz);
  const volts = meanings(control).findIndex((m) => m.unit === 'V');
  if (volts >= 0) return onTaper(midiToVolts(midi), text, control, volts);
  throw new ReadingError(`${control.name} is not a pitch: a note name says nothing about it.`);
}

const matches = (text: string, control: SwitchedControl): SwitchedControl['positions'] => {
  const wanted = text.toLowerCase();
  const exact = control.positions.filter((p) => p.name.toLowerCase() === wanted || p.id === wanted);
  return exact.length > 0
    ? exact
    : control.positions.filter((p) => p.name.toLowerCase().startsWith(wanted));
};

function readPosition(text: string, control: SwitchedControl): string {
  if (text.toLowerCase() === 'min') return control.positions[0]!.id;
  if (text.toLowerCase() === 'max') return control.positions.at(-1)!.id;
  const found = matches(text, control);
  if (found.length === 1) return found[0]!.id;
  if (found.length > 1) {
    throw new ReadingError(
      `"${text}" could be ${found.map((p) => p.name).join(' or ')}: write one letter more.`,
    );
  }
  const place = readOrdinal(text);
  if (place !== undefined) {
    const position = control.positions[place - 1];
    if (position) return position.id;
    throw new ReadingError(`${control.name} has only ${control.positions.length} positions.`);
  }
  throw new ReadingError(`${control.name} has no position "${text}".`);
}

/** `#3`, `3rd`, `third`, `the third LED`. */
function readOrdinal(text: string): number | undefined {
  const words = text
    .toLowerCase()
    .replace(/^the /, '')
    .replace(/ (led|lamp|position|one)$/, '');
  const number = /^(?:#(\d{1,2})|(\d{1,2})(?:st|nd|rd|th))$/.exec(words);
  if (number) return Number(number[1] ?? number[2]);
  const named = ORDINALS.indexOf(words);
  return named < 0 ? undefined : named + 1;
}

/** What a reading of this control may look like, in one line. */
export function expectedReadings(control: Control): string {
  if (isSwitched(control)) {
    return `${control.positions.map((p) => p.name).join(', ')}, or #1 to #${control.positions.length}`;
  }
  const sample = readingText(control, { kind: 'set', value: 0.75 });
  const parts: string[] = [];
  switch (readingStyle(control)) {
    case 'printed': {
      const [lo, hi] = scaleBounds(control.scale!);
      parts.push(`a number from ${lo} to ${hi}`);
      break;
    }
    case 'display':
      parts.push(`what the display shows, as ${sample}`);
      break;
    case 'clock':
      parts.push('a clock time as 2:30');
      break;
    case 'percent':
      break;
  }
  if (control.scale?.unit !== '%') parts.push('per cent of the travel as 70%');
  const meaning = meanings(control)[0];
  if (meaning && meaning.unit !== '' && meaning.unit !== control.scale?.unit) {
    const [lo, hi] = meaning.bounds.map((v) => formatPhysical(v, meaning.unit));
    parts.push(`${lo} to ${hi}`);
  }
  parts.push('a range as 40-50%', '~ and a target', '* or ?');
  return parts.join('; ');
}
