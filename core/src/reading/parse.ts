import type { Setting } from './setting';
import type {
  ContinuousControl,
  Control,
  PhysicalUnit,
  SwitchedControl,
  Value,
} from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { midiToHz, midiToVolts, noteToMidi } from '../theory';
import { readClockWords } from './clock-words';
import { expectedReadings } from './expected-readings';
import { conversion } from './convert-unit';
import { clockToPosition } from './dial';
import { formatValue, soundingValue } from './format';
import { positionsNamed, readPosition } from './position';
import { ReadingError } from './reading-error';
import { readNoteLength } from './note-length';
import { type Nearness, readNearness, readNotches, readPlaceWords } from './place-words';
import { nudge, readingStyle, readingTolerance, roundPosition, sameReading } from './resolution';
import { numbersOf, printedText, typedNumbers } from './shown-number';
import { meanings, scaleBounds, scalePosition } from './taper';
import { formatPhysical, readUnit, UNIT_PATTERN } from './unit';

/** What a reading was understood as: a setting, or null for `?` (not recorded). */
export type ParsedReading =
  | {
      ok: true;
      setting: Setting | null;
      /** What was made of it that may not have been meant so: which unit, which side, which tempo. */
      said: string[];
    }
  | { ok: false; message: string; expected: string };

// A comma before three digits parts thousands, unless the number begins with 0: 1,200 ms is longer than a second.
const NUMBER = String.raw`[+-]?(?:[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?(?!\d)|\d+(?:[.,]\d+)?|[.,]\d+)`;
const THOUSANDS = /^[+-]?[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?$/;
const QUANTITY = String.raw`\d{1,2}:\d{2}|(?:a )?(?:half|quarter) (?:past|to) \w+|\w+ o'clock|[x×]\s*${NUMBER}|${NUMBER}\s*(?:(?:${UNIT_PATTERN})(?![a-z]))?|min|max|noon|half|[A-Ga-g][#b]?-?\d{1,2}`;
const SINGLE = new RegExp(`^(?:${QUANTITY})$`, 'i');
const RANGE = new RegExp(
  String.raw`^(?:somewhere\s+)?(?:from\s+|between\s+)?(${QUANTITY})\s*(?:-|–|\.\.|to\b|and\b)\s*(${QUANTITY})(?:,?\s*(?:best|@)\s*(${QUANTITY}))?$`,
  'i',
);
const EAR = new RegExp(String.raw`^~\s*((?:${QUANTITY})(?=\s|$))?\s*(.*)$`, 'i');
const AMOUNT = new RegExp(String.raw`^(${NUMBER})\s*(${UNIT_PATTERN})?$`, 'i');

/**
 * Reads what a person says of a control.
 *
 * Understands clock times (`2:30`, `half past two`), per cent (`70%`), the panel's own numbers (`6.5`), units (`412ms`,
 * `1.2 kHz`, `-7st`), notes (`A2`, for pitches and frequencies), `min`, `max`, `noon`, named positions by an unambiguous
 * beginning or by place (`#3`, `third`), note lengths at a tempo (`1/8.`, `8 bars`), places and nearness in words (`halfway`,
 * `about 4`, `a bit over 3`, `one notch up`), ranges (`40-50%`, `3.5 to 4 best 3.7`), by ear (`~2:30 until the beat stops`),
 * `*` (does not matter) and `?` (not recorded).
 * @param current the setting so far: where a by-ear target stands when no place is given
 * @param tempo quarter notes a minute, for note lengths
 * @returns the setting, or what was wrong and what would have been understood
 */
export function parseReading(
  text: string,
  control: Control,
  current?: Setting,
  tempo = 120,
): ParsedReading {
  const said: string[] = [];
  try {
    const setting = read(clean(text), { control, current, tempo, say: (t) => said.push(t) });
    return { ok: true, setting, said: [...new Set(said)] };
  } catch (error) {
    if (!(error instanceof ReadingError)) throw error;
    return { ok: false, message: error.message, expected: expectedReadings(control) };
  }
}

const clean = (text: string): string =>
  text.trim().replace(/[−‐‑]/g, '-').replace(/[’′]/g, "'").replace(/\s+/g, ' ');

/** What a reading is read for. */
interface Reader<C extends Control = Control> {
  control: C;
  current: Setting | undefined;
  tempo: number;
  say(what: string): void;
}

const forSwitch = (r: Reader): r is Reader<SwitchedControl> => isSwitched(r.control);
const forDial = (r: Reader): r is Reader<ContinuousControl> => !isSwitched(r.control);

function read(text: string, r: Reader): Setting | null {
  if (text === '') throw new ReadingError('Nothing was written.');
  if (text.length > 240) throw new ReadingError('That is too long for a reading.');
  if (text === '?') return null;
  if (text === '*' || text.toLowerCase() === 'any') return { kind: 'any' };
  if (text.startsWith('~')) return readEar(text, r);
  const steps = readNotches(text);
  if (steps !== undefined) {
    const from = soundingValue(r.control, r.current);
    r.say(`counted from ${formatValue(r.control, from)}`);
    return { kind: 'set', value: nudge(r.control, from, steps) };
  }
  if (forSwitch(r)) return { kind: 'set', value: readPosition(text, r.control) };
  if (!forDial(r)) throw new ReadingError('It has no readings.');
  const range = RANGE.exec(text);
  if (range && !SINGLE.test(text)) return readRange(range, r);
  const near = readNearness(text);
  if (near) return readNear(near, r);
  return { kind: 'set', value: readPlace(text, r) };
}

/** A place that is meant nearly so: a range, in what the panel can be read to. */
function readNear({ rest, from, to, best }: Nearness, r: Reader<ContinuousControl>): Setting {
  const place = readPlace(rest, r);
  // A display shows whole steps: less than one would show the same number at both ends.
  const shown = readingStyle(r.control) === 'display' ? 2 : 1;
  const step = shown * readingTolerance(r.control, place);
  const at = (steps: number): number =>
    roundPosition(Math.min(1, Math.max(0, place + steps * step)));
  if (at(from) === at(to)) return { kind: 'set', value: place };
  r.say(`taken as ${formatValue(r.control, at(from))} to ${formatValue(r.control, at(to))}`);
  return { kind: 'range', from: at(from), to: at(to), best: at(best) };
}

function readEar(text: string, r: Reader): Setting {
  const { control } = r;
  const body = text.slice(1).trim();
  let near: Value | undefined;
  let target = body;
  if (isSwitched(control)) {
    const [first = '', ...rest] = body.split(' ');
    if (rest.length > 0 && positionsNamed(first, control).length === 1) {
      near = readPosition(first, control);
      target = rest.join(' ');
    }
  } else {
    const parts = EAR.exec(text)!;
    if (parts[1] && forDial(r)) near = readPlace(parts[1].trim(), r);
    target = parts[2]!;
  }
  if (target === '') {
    throw new ReadingError(
      'By ear needs its target in words, for instance "~2:30 until the beat stops".',
    );
  }
  return { kind: 'ear', target, near: near ?? soundingValue(control, r.current) };
}

function readRange(parts: RegExpExecArray, r: Reader<ContinuousControl>): Setting {
  const { control } = r;
  const last = parts[2]!;
  const unit = AMOUNT.exec(last.trim())?.[2];
  // "40-50%": the unit behind the second number belongs to the first as well.
  const borrow = (quantity: string): string => {
    const amount = AMOUNT.exec(quantity.trim());
    if (!unit || !amount || amount[2]) return quantity;
    r.say(`${quantity.trim()} in ${unit} too`);
    return `${quantity}${unit}`;
  };
  const [first, second] = [readPlace(borrow(parts[1]!).trim(), r), readPlace(last.trim(), r)];
  if (first > second) r.say('turned round');
  const [from, to] = first <= second ? [first, second] : [second, first];
  const best = parts[3] ? readPlace(borrow(parts[3]).trim(), r) : roundPosition((from + to) / 2);
  if (best < from || best > to) {
    throw new ReadingError(`The best guess ${parts[3]} lies outside the range.`);
  }
  const one = readingStyle(control) === 'display' && sameReading(control, from, to);
  return one || from === to ? { kind: 'set', value: best } : { kind: 'range', from, to, best };
}

/** One place of a continuous control, as a share of its travel. */
function readPlace(text: string, r: Reader<ContinuousControl>): number {
  const { control } = r;
  const length = readNoteLength(text, r.tempo);
  if (length !== undefined && isTimed(control)) return readLength(length, text, r);
  const shown = control.display?.words?.find(
    (one) => one.word.toLowerCase() === text.toLowerCase(),
  );
  if (shown) return roundPosition(numbersOf(control)!.position(shown.at)!);
  const word = readPlaceWords(text);
  if (word !== undefined) return roundPosition(word);
  const time = readTime(text);
  if (time) return readClock(time, text, control);
  const times = /^[x×]\s*(.+)$/i.exec(text);
  const amount = AMOUNT.exec(times ? `${times[1]}x` : text);
  if (amount) {
    if (THOUSANDS.test(amount[1]!)) r.say(`${amount[1]} is ${numberOf(amount[1]!)}`);
    return readAmount(numberOf(amount[1]!), amount[2], text, r);
  }
  const midi = noteToMidi(text);
  if (midi !== undefined) return readNote(midi, text, control);
  throw new ReadingError(`"${text}" is not a reading of ${control.name}.`);
}

const numberOf = (text: string): number =>
  Number(THOUSANDS.test(text) ? text.replaceAll(',', '') : text.replace(',', '.'));

/** Lowest rate in Hz from which a frequency is one of sound, not of movement. */
const AUDIBLE = 8;

/** A control that stands for a time or a rate: note lengths are readings of it. */
export const isTimed = (control: Control): boolean =>
  !isSwitched(control) &&
  meanings(control).some((m) => m.unit === 's' || (m.unit === 'Hz' && m.bounds[0] < AUDIBLE));

/** A note length, or a period, where a time or a rate is set. */
function readLength(seconds: number, text: string, r: Reader<ContinuousControl>): number {
  const all = meanings(r.control);
  const time = all.findIndex((m) => m.unit === 's');
  r.say(`${text} at ${r.tempo} bpm is ${formatPhysical(seconds, 's')}`);
  if (time >= 0) return onTaper(seconds, text, r.control, time);
  return onTaper(
    1 / seconds,
    text,
    r.control,
    all.findIndex((m) => m.unit === 'Hz'),
  );
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
  if (time.hours < 1 || time.hours > 12 || time.minutes > 59) {
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
  r: Reader<ContinuousControl>,
): number {
  const { control } = r;
  const style = readingStyle(control);
  if (!unitText) {
    if (control.scale) return onScale(typedNumber(number, text, r), text, control);
    if (style === 'display') return onTaper(number, text, control, 0);
    if (number === 0) return readNothing(r);
    throw new ReadingError(`${control.name} has no numbers printed: ${text} of what?`);
  }
  const { unit, factor } = readUnit(unitText)!;
  const ownsPercent =
    style === 'display' || style === 'printed' ? numbersOf(control)!.unit === '%' : false;
  if (unit === '%' && !ownsPercent) return readPercent(number, text, r);
  if (control.scale && control.scale.unit === unit) return onScale(number * factor, text, control);
  const all = meanings(control);
  const bound = all.findIndex((m) => m.unit === unit);
  if (bound >= 0) return onTaper(number * factor, text, control, bound);
  // A gain in decibels, a rate by its period, a time by its rate.
  const gain = unit === 'dB' ? all.findIndex((m) => m.unit === 'x') : -1;
  if (gain >= 0) return onTaper(10 ** (number / 20), text, control, gain);
  const other = unit === 's' ? 'Hz' : unit === 'Hz' ? 's' : undefined;
  const turned = number > 0 && isTimed(control) ? all.findIndex((m) => m.unit === other) : -1;
  if (turned >= 0) {
    const value = 1 / (number * factor);
    r.say(`${text} is ${formatPhysical(value, other!)}`);
    return onTaper(value, text, control, turned);
  }
  const converted = readConverted(number * factor, unit, text, r);
  if (converted !== undefined) return converted;
  const own = all[0]?.unit;
  throw new ReadingError(
    own
      ? `${control.name} is not measured in ${unit}, but in ${own}.`
      : `${control.name} is not measured in ${unit}.`,
  );
}

/** An amount in a unit that measures the same as the scale's or the parameter's own: 0.04 st is 4 cents. */
function readConverted(
  number: number,
  unit: PhysicalUnit,
  text: string,
  r: Reader<ContinuousControl>,
): number | undefined {
  const { control } = r;
  const all = meanings(control);
  for (const [bound, own] of [control.scale?.unit, ...all.map((m) => m.unit)].entries()) {
    const known = own === undefined ? undefined : conversion(unit, own);
    if (!known || known.curved) continue;
    const value = known.to(number);
    r.say(`${text} is ${formatPhysical(value, own!)}`);
    return bound === 0 ? onScale(value, text, control) : onTaper(value, text, control, bound - 1);
  }
  return undefined;
}

/** A number without a unit, in the scale's own: where it may be of two units, one has to be said. */
function typedNumber(
  number: number,
  text: string,
  { control, say }: Reader<ContinuousControl>,
): number {
  const scale = control.scale!;
  const all = typedNumbers(scale, number);
  const reached = all.filter((n) => scalePosition(scale, n) !== undefined);
  const spelled = all.map((n) => printedText(scale, n, 6));
  if (reached.length > 1 && reached[0] !== reached[1]) {
    throw new ReadingError(`${text} of what? Write the unit: ${spelled.join(' or ')}.`);
  }
  const found = reached[0] ?? all[0]!;
  if (all.length > 1) say(`${text} is ${printedText(scale, found, 6)}`);
  return found;
}

/** Where a control without numbers does nothing: in the middle of one that goes both ways, else at its lower end. */
function readNothing(r: Reader<ContinuousControl>): number {
  const both = bothWays(r.control);
  return both === undefined ? 0 : both;
}

/** Share of travel at which a control that goes to minus and to plus stands at nothing; undefined for all others. */
function bothWays(control: ContinuousControl): number | undefined {
  if (control.scale) {
    const [lo, hi] = scaleBounds(control.scale);
    return lo < 0 && hi > 0 ? scalePosition(control.scale, 0) : undefined;
  }
  const [meaning] = meanings(control);
  if (!meaning || meaning.bounds[0] >= 0 || meaning.bounds[1] <= 0) return undefined;
  return meaning.position(0);
}

/** Per cent of the travel; of a control that goes both ways, of the side that the sign says. */
function readPercent(number: number, text: string, r: Reader<ContinuousControl>): number {
  // A knob with no numbers is read by how far it is turned; an amount, or what shows its minus, by what it comes to.
  const shows = r.control.amount === true || readingStyle(r.control) === 'printed';
  const nothing = shows || r.control.display ? bothWays(r.control) : undefined;
  if (nothing === undefined && bothWays(r.control) !== undefined) r.say('per cent of the travel');
  if (number < (nothing === undefined ? 0 : -100) || number > 100) {
    throw new ReadingError(`${text} is outside the travel of 0 to 100 %.`);
  }
  if (nothing === undefined) return roundPosition(number / 100);
  const rises = number >= 0 === isRising(r.control);
  const end = rises ? 1 : 0;
  r.say(`${text} of the ${number < 0 ? 'minus' : 'plus'} side, counted from 0`);
  return roundPosition(nothing + (Math.abs(number) / 100) * (end - nothing));
}

function isRising(control: ContinuousControl): boolean {
  if (control.scale) return scalePosition(control.scale, scaleBounds(control.scale)[1]) === 1;
  const [meaning] = meanings(control);
  return meaning!.value(1) >= meaning!.value(0);
}

function onScale(number: number, text: string, control: ContinuousControl): number {
  const position = scalePosition(control.scale!, number);
  if (position === undefined) {
    const [lo, hi] = scaleBounds(control.scale!).map((n) => printedText(control.scale!, n, 6));
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
