import type { PhysicalUnit, Scale } from '../instrument/schema';
import { shareBetween } from '../reading/interpolate';
import type { Mark, WrittenIn } from './outline';

const NUMBER = String.raw`[+\-−]?\d+(?:[.,]\d+)?`;
/** Units as they are written on panels, each with its factor to the unit of a scale. */
const UNITS: Readonly<Record<string, readonly [PhysicalUnit, number]>> = {
  hz: ['Hz', 1],
  khz: ['Hz', 1000],
  s: ['s', 1],
  sec: ['s', 1],
  ms: ['s', 0.001],
  st: ['st', 1],
  semitones: ['st', 1],
  ct: ['cents', 1],
  cents: ['cents', 1],
  '%': ['%', 1],
  v: ['V', 1],
  mv: ['V', 0.001],
  db: ['dB', 1],
  oct: ['oct', 1],
  octaves: ['oct', 1],
  x: ['x', 1],
};
const UNIT = Object.keys(UNITS)
  .sort((a, b) => b.length - a.length)
  .join('|');
/** A number, `k` for thousands, and a unit that may stand behind it. */
const AMOUNT = String.raw`(${NUMBER})(k(?!hz))?(?:\s*(${UNIT}))?`;
const SPACED_AMOUNT = String.raw`(${NUMBER})(k(?!hz))?(${UNIT})?`;
const ENDS = new RegExp(
  String.raw`(?:^|\s)${AMOUNT}(\s*\.\.\s*|[-–—]|\s+[-–—]\s+|\s+to\s+)${AMOUNT}$`,
  'i',
);
const ALONE = new RegExp(`^${AMOUNT}$`, 'i');
const LIST = new RegExp(String.raw`(?:^|\s)((?:[^\s;]+;)+[^\s;]+)(?:\s+(${UNIT}))?$`, 'i');
const MARK = new RegExp(String.raw`^${SPACED_AMOUNT}(?:@(\d*\.?\d+))?$`, 'i');

/** A scale as it is written: its marks in hertz, seconds and so on, whatever thousandths or thousands they are written in. */
export interface WrittenScale {
  marks: Mark[];
  unit?: PhysicalUnit;
  writtenIn?: WrittenIn;
  /** Decimals that its numbers are written with, where they are more than the numbers need. */
  decimals?: number;
}

/** How units are written on panels, for a message. */
export const UNITS_IN_WORDS = 'Hz, kHz, s, ms, st, cents, %, V, mV, dB, oct or x';

export function readNumber(text: string): number {
  const plain = text.replace('−', '-').replace(',', '.');
  return plain.endsWith('k') ? 1000 * Number(plain.slice(0, -1)) : Number(plain);
}

/** A number of a scale with the words around it. */
interface Amount {
  text: string;
  thousands: boolean;
  unit: string | undefined;
}
const amountOf = ([text, k, unit]: readonly (string | undefined)[]): Amount => ({
  text: text!,
  thousands: k !== undefined,
  unit: unit?.toLowerCase(),
});

/**
 * Reads the printed scale that a text ends with: its ends (`0-10`, `-5..5`, `20..20k Hz`, `5 ms..5 s`), numbers at even steps
 * (`1;2;5;10`), or each with its share of the travel (`0@0;5@0.3;10@1`).
 * @returns what stands before it, and the scale; null when the text ends otherwise
 * @throws ScaleFault when its numbers are of units that do not go together
 */
export function scaleAtEnd(
  text: string,
): { before: string; part: string; scale: WrittenScale } | null {
  const ends = ENDS.exec(text);
  if (ends) {
    const [first, last] = [amountOf(ends.slice(1, 4)), amountOf(ends.slice(5, 8))];
    const apart = /^\s+[-–—to]+\s+$/.test(ends[4]!);
    // `Osc 1 - 2` may be a name: with room around it a stroke parts two ends only where a unit is said.
    if (apart && !first.unit && !last.unit) return null;
    const scale = scaleOf([first, last], [0, 1], last.unit);
    return { before: text.slice(0, ends.index), part: ends[0].trim(), scale };
  }
  const list = LIST.exec(text);
  if (!list) return null;
  const parts = list[1]!.split(';');
  const amounts: Amount[] = [];
  const places: number[] = [];
  for (const [i, part] of parts.entries()) {
    const mark = MARK.exec(part);
    if (!mark) return null;
    amounts.push(amountOf(mark.slice(1, 4)));
    places.push(mark[4] === undefined ? i / (parts.length - 1) : Math.min(1, Number(mark[4])));
  }
  const scale = scaleOf(amounts, places, list[2]?.toLowerCase() ?? amounts.at(-1)!.unit);
  return { before: text.slice(0, list.index), part: list[0].trim(), scale };
}

/** Units of one scale that do not measure the same. */
export class ScaleFault extends Error {}

/** A unit behind the last number is that of all that have none. */
function scaleOf(
  amounts: readonly Amount[],
  places: readonly number[],
  last: string | undefined,
): WrittenScale {
  const units = amounts.map((a) => a.unit ?? last);
  const named = [...new Set(units.filter((u) => u !== undefined))];
  const kinds = new Set(named.map((u) => UNITS[u]![0]));
  if (kinds.size > 1)
    throw new ScaleFault(`${named.join(' and ')} do not measure the same: write one unit.`);
  const marks = amounts.map(({ text, thousands }, i): Mark => {
    const factor = (thousands ? 1000 : 1) * (units[i] ? UNITS[units[i]]![1] : 1);
    return { at: places[i]!, value: Number((readNumber(text) * factor).toPrecision(12)) };
  });
  // `0..10.0`: what the zero behind the point says is kept; a point of the number's own is known by the number.
  const decimals = Math.max(...amounts.map(({ text }) => placesOf(text.replace(',', '.'))));
  const own = Math.max(...amounts.map(({ text }) => placesOf(String(readNumber(text)))));
  const [unit] = kinds;
  const writtenIn = writtenInOf(named);
  return {
    marks,
    ...(unit ? { unit } : {}),
    ...(writtenIn ? { writtenIn } : {}),
    ...(decimals > own ? { decimals } : {}),
  };
}

/** Places behind the point of a number as it is written. */
export const placesOf = (text: string): number => /\.(\d+)/.exec(text)?.[1]?.length ?? 0;

function writtenInOf(units: readonly string[]): WrittenIn | undefined {
  const [milli, kilo] = [units.includes('ms'), units.includes('khz')];
  if (milli) return units.length > 1 ? 'ms and s' : 'ms';
  if (kilo) return units.length > 1 ? 'Hz and kHz' : 'kHz';
  return undefined;
}

/** A number as it stands on a scale, with or without a unit; NaN when it is none. */
export function readOnScale(
  text: string,
  { unit, writtenIn }: { unit?: PhysicalUnit; writtenIn?: WrittenIn },
): number {
  const found = ALONE.exec(text.trim());
  if (!found) return NaN;
  const amount = amountOf(found.slice(1, 4));
  const [kind, factor] = UNITS[amount.unit ?? ''] ?? [
    unit,
    writtenIn === 'ms' ? 0.001 : writtenIn === 'kHz' ? 1000 : 1,
  ];
  if (kind !== unit) return NaN;
  return Number((readNumber(amount.text) * (amount.thousands ? 1000 : 1) * factor).toPrecision(12));
}

/** What is wrong with a scale, in words; empty when it can be printed. */
export function scaleFault(marks: readonly Mark[]): string {
  const values = marks.map((m) => m.value);
  const up = values.every((v, i) => i === 0 || v > values[i - 1]!);
  const down = values.every((v, i) => i === 0 || v < values[i - 1]!);
  if (!up && !down)
    return 'The numbers of a scale run one way: each greater than the last, or each smaller.';
  if (marks.some((m, i) => i > 0 && m.at <= marks[i - 1]!.at))
    return 'The marks of a scale go from one end stop to the other.';
  if (marks[0]!.at !== 0 || marks.at(-1)!.at !== 1)
    return 'A scale has a number at each end stop: the first at 0, the last at 1.';
  if (values.some((v) => Math.abs(v) > 1e6)) return 'The numbers of a scale go to a million.';
  return marks.length > 64 ? 'A scale has 64 numbers at most.' : '';
}

const plain = (value: number): string => String(value);

/** A number of a scale as it is written; only where a scale is written in two units each number has its own. */
export function writeAmount(
  value: number,
  { unit, writtenIn }: { unit?: PhysicalUnit | undefined; writtenIn?: WrittenIn | undefined },
  leastDecimals = 0,
): string {
  const small = writtenIn === 'ms' || (writtenIn === 'ms and s' && Math.abs(value) < 1);
  const large = writtenIn === 'kHz' || (writtenIn === 'Hz and kHz' && Math.abs(value) >= 1000);
  const number = Number((small ? value * 1000 : large ? value / 1000 : value).toPrecision(12));
  const text =
    placesOf(plain(number)) < leastDecimals ? number.toFixed(leastDecimals) : plain(number);
  if (writtenIn !== 'ms and s' && writtenIn !== 'Hz and kHz') return text;
  return `${text}${small ? 'ms' : large ? 'kHz' : unit!}`;
}

const decimalsOf = (marks: readonly Mark[], writing: Parameters<typeof writeAmount>[1]): number =>
  Math.max(0, ...marks.map((m) => placesOf(writeAmount(m.value, writing))));

/** Where a display shows milliseconds below a second, it shows hundredths above, unless its numbers say otherwise. */
const DECIMALS_OF_SECONDS = 2;

/** Decimals that a display shows when nothing says how many: those of the most exact number. */
export const decimalsShown = ({
  marks,
  unit,
  writtenIn,
}: Pick<Scale, 'marks' | 'unit' | 'writtenIn'>): number =>
  writtenIn === 'ms and s'
    ? DECIMALS_OF_SECONDS
    : Math.min(4, decimalsOf(marks, { unit, writtenIn }));

/** Decimals of milliseconds on a display that goes on in seconds. */
export const milliDecimalsShown = (marks: readonly Mark[]): number =>
  Math.min(
    3,
    decimalsOf(
      marks.filter((m) => Math.abs(m.value) < 1),
      { writtenIn: 'ms' },
    ),
  );

/** The same in the shortest form that reads back as it was, with its unit. */
export function writeScale({ marks, unit, writtenIn, decimals = 0 }: WrittenScale): string {
  const amount = ({ value }: Mark, least = 0): string =>
    writeAmount(value, { unit, writtenIn }, least);
  const behind =
    writtenIn === 'ms' || writtenIn === 'kHz'
      ? ` ${writtenIn}`
      : writtenIn || !unit
        ? ''
        : ` ${unit}`;
  const [first, last] = [marks[0]!, marks.at(-1)!];
  if (marks.length === 2 && first.at === 0 && last.at === 1)
    return `${amount(first)}..${amount(last, decimals)}${behind}`;
  const even = marks.every((m, i) => m.at === i / (marks.length - 1));
  const all = marks.map((m, i) => {
    const text = amount(m, i === marks.length - 1 ? decimals : 0);
    return even ? text : `${text}@${plain(m.at)}`;
  });
  return `${all.join(';')}${behind}`;
}

/** Top over bottom from which hertz and seconds are taken to be spread by ratio. */
const BY_RATIO = 50;

/** Whether numbers of a scale are spread by ratio, as frequencies and times are on panels. */
export const isByRatio = (marks: readonly Mark[], unit: string | undefined): boolean => {
  const [first, last] = [marks[0]!.value, marks.at(-1)!.value];
  return (
    (unit === 'Hz' || unit === 's') &&
    Math.min(first, last) > 0 &&
    Math.max(first / last, last / first) >= BY_RATIO
  );
};

/** The marks of a scale as it is printed: where only the ends of one by ratio are known, with those that stand between. */
export const printedMarks = (marks: readonly Mark[], unit: string | undefined): Mark[] =>
  marks.length === 2 && isByRatio(marks, unit) ? marksByRatio(marks as [Mark, Mark]) : [...marks];

/** The marks that stand between the ends of a scale that is spread by ratio: 1, 2 and 5 times the powers of ten. */
function marksByRatio([first, last]: readonly [Mark, Mark]): Mark[] {
  const turned = first.value > last.value;
  const [lo, hi] = turned ? [last.value, first.value] : [first.value, last.value];
  const at = (value: number): number => Math.log(value / lo) / Math.log(hi / lo);
  const marks: Mark[] = [{ at: 0, value: lo }];
  for (let power = Math.floor(Math.log10(lo)); power <= Math.log10(hi); power++) {
    for (const step of [1, 2, 5]) {
      const value = Number(`${step}e${power}`);
      // Not on top of an end.
      if (value > 1.05 * lo && value < hi / 1.05)
        marks.push({ at: Math.round(1e6 * at(value)) / 1e6, value });
    }
  }
  marks.push({ at: 1, value: hi });
  return turned ? marks.reverse().map((m) => ({ ...m, at: 1 - m.at })) : marks;
}

/**
 * Smallest printed division of a scale whose numbers alone are known: a tenth or so of its span, or of its smallest step where
 * the steps are not even; 1, 2 or 5 times a power of ten.
 */
export function divisionOf(marks: readonly Mark[]): number {
  const gaps = marks.slice(1).map((m, i) => Math.abs(m.value - marks[i]!.value));
  const span = marks.length > 2 ? Math.min(...gaps) / 5 : gaps[0]! / 10;
  const power = 10 ** Math.floor(Math.log10(span) + 1e-9);
  const steps = span / power;
  return power * (steps >= 5 ? 5 : steps >= 2 ? 2 : 1);
}

/** Share of the travel at which a number stands, or null when the scale does not reach it. */
export function travelAt(marks: readonly Mark[], value: number, byRatio = false): number | null {
  for (let i = 1; i < marks.length; i++) {
    const [a, b] = [marks[i - 1]!, marks[i]!];
    const even = (value - a.value) / (b.value - a.value);
    if (even < 0 || even > 1) continue;
    const share = byRatio ? shareBetween(a.value, b.value, value) : even;
    return a.at + share * (b.at - a.at);
  }
  return null;
}

/** The number that stands at a share of the travel. */
export function valueAt(marks: readonly Mark[], at: number, byRatio = false): number {
  const i = Math.max(
    1,
    marks.findIndex((m) => m.at >= at),
  );
  const [a, b] = [marks[i - 1]!, marks[i]!];
  const share = (at - a.at) / (b.at - a.at);
  const value =
    byRatio && a.value * b.value > 0
      ? a.value * (b.value / a.value) ** share
      : a.value + share * (b.value - a.value);
  return byRatio ? Number(value.toPrecision(9)) : value;
}
