import type { PhysicalUnit } from '../instrument/schema';
import type { Mark } from './outline';

const NUMBER = String.raw`[+\-−]?\d+(?:[.,]\d+)?k?`;
const ENDS = new RegExp(`^(${NUMBER})(?:\\.\\.|-|–|—)(${NUMBER})$`);
const MARK = new RegExp(`^(${NUMBER})(?:@(\\d*\\.?\\d+))?$`);

/** Units as they are written on panels. */
const UNITS: Readonly<Record<string, PhysicalUnit>> = {
  hz: 'Hz',
  s: 's',
  st: 'st',
  cents: 'cents',
  '%': '%',
  v: 'V',
  db: 'dB',
  oct: 'oct',
  x: 'x',
};

export const readUnit = (word: string): PhysicalUnit | undefined =>
  Object.hasOwn(UNITS, word.toLowerCase()) ? UNITS[word.toLowerCase()] : undefined;

export function readNumber(text: string): number {
  const plain = text.replace('−', '-').replace(',', '.');
  return plain.endsWith('k') ? 1000 * Number(plain.slice(0, -1)) : Number(plain);
}

/**
 * Reads a printed scale: its ends (`0-10`, `-5..5`, `20-20k`), numbers at even steps (`1/2/...` is a switch; `1;2;5;10` a
 * scale), or each with its share of the travel (`0@0;5@0.3;10@1`).
 * @returns null when the word is no scale
 */
export function readScale(word: string): Mark[] | null {
  const ends = ENDS.exec(word);
  if (ends) {
    return [
      { at: 0, value: readNumber(ends[1]!) },
      { at: 1, value: readNumber(ends[2]!) },
    ];
  }
  const parts = word.split(';');
  if (parts.length < 2) return null;
  const marks: Mark[] = [];
  for (const [i, part] of parts.entries()) {
    const mark = MARK.exec(part);
    if (!mark) return null;
    const at = mark[2] === undefined ? i / (parts.length - 1) : Number(mark[2]);
    marks.push({ at: Math.min(1, at), value: readNumber(mark[1]!) });
  }
  return marks;
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

/** The same in the shortest form that reads back as it was. */
export function writeScale(marks: readonly Mark[]): string {
  const [first, last] = [marks[0]!, marks.at(-1)!];
  if (marks.length === 2 && first.at === 0 && last.at === 1)
    return `${plain(first.value)}..${plain(last.value)}`;
  const even = marks.every((m, i) => m.at === i / (marks.length - 1));
  return marks.map((m) => (even ? plain(m.value) : `${plain(m.value)}@${plain(m.at)}`)).join(';');
}

/** Top over bottom from which hertz and seconds are taken to be spread by ratio. */
const BY_RATIO = 50;

/** Whether a scale of which only the ends are known is spread by ratio, as frequencies and times are on panels. */
export const isByRatio = (marks: readonly Mark[], unit: string | undefined): boolean => {
  const [first, last] = [marks[0]!.value, marks.at(-1)!.value];
  return (
    marks.length === 2 &&
    (unit === 'Hz' || unit === 's') &&
    Math.min(first, last) > 0 &&
    Math.max(first / last, last / first) >= BY_RATIO
  );
};

/** The marks that stand between the ends of a scale that is spread by ratio: 1, 2 and 5 times the powers of ten. */
export function marksByRatio([first, last]: readonly [Mark, Mark]): Mark[] {
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
export function travelAt(marks: readonly Mark[], value: number): number | null {
  for (let i = 1; i < marks.length; i++) {
    const [a, b] = [marks[i - 1]!, marks[i]!];
    const share = (value - a.value) / (b.value - a.value);
    if (share >= 0 && share <= 1) return a.at + share * (b.at - a.at);
  }
  return null;
}

/** The number that stands at a share of the travel. */
export function valueAt(marks: readonly Mark[], at: number): number {
  const i = Math.max(
    1,
    marks.findIndex((m) => m.at >= at),
  );
  const [a, b] = [marks[i - 1]!, marks[i]!];
  return a.value + ((at - a.at) / (b.at - a.at)) * (b.value - a.value);
}
