import type { ContinuousControl, Display, PhysicalUnit, Scale } from '../instrument/schema';
import { meanings, scaleBounds, scalePosition, scaleReading } from './taper';
import { formatTrimmed } from './unit';

/** The numbers that one reads on a control: those of its scale, else, on a display, what it sets. */
export interface Numbers {
  unit: PhysicalUnit;
  /** Number at a share of travel. */
  value(position: number): number;
  /** Share of travel at a number; undefined when it is out of reach. */
  position(number: number): number | undefined;
  bounds: [number, number];
}

/** @returns undefined for a control with neither a scale nor a display */
export function numbersOf(control: ContinuousControl): Numbers | undefined {
  const { scale, display } = control;
  if (!scale) return display ? meanings(control)[0] : undefined;
  return {
    unit: scale.unit,
    value: (position) => scaleReading(scale, position),
    position: (number) => scalePosition(scale, number),
    bounds: scaleBounds(scale),
  };
}

/** A unit as it stands behind a number: `ms` is 0.001 of the scale's own. */
export interface WrittenUnit {
  name: string;
  factor: number;
}

const MILLI: WrittenUnit = { name: 'ms', factor: 0.001 };
const KILO: WrittenUnit = { name: 'kHz', factor: 1000 };

/** Below this many seconds milliseconds are shown: what would be rounded to 1000 ms is a second. */
const belowASecond = (number: number, decimals: number): boolean =>
  Number((Math.abs(number) * 1000).toFixed(decimals)) < 1000;

/** The unit that a scale's number is written in. @param milliDecimals of the number in milliseconds */
export function writtenUnit(
  { unit, writtenIn }: Pick<Scale, 'unit' | 'writtenIn'>,
  number: number,
  milliDecimals = 0,
): WrittenUnit {
  if (writtenIn === 'ms') return MILLI;
  if (writtenIn === 'kHz') return KILO;
  if (writtenIn === 'ms and s' && belowASecond(number, milliDecimals)) return MILLI;
  if (writtenIn === 'Hz and kHz' && Math.abs(number) >= 1000) return KILO;
  return { name: unit, factor: 1 };
}

const writtenAs = (control: ContinuousControl): Pick<Scale, 'unit' | 'writtenIn'> =>
  control.scale ?? { unit: meanings(control)[0]?.unit ?? '' };

/** Decimals of a display: those of milliseconds are its own where it goes on in seconds. */
const decimalsIn = (
  unit: string,
  { decimals, milliDecimals = 0 }: Display,
  { scale }: ContinuousControl,
): number => (unit === 'ms' && scale?.writtenIn === 'ms and s' ? milliDecimals : decimals);

/** How far apart neighbouring numbers of a display are, in the scale's own numbers, around one of them. */
export function displayStep(control: ContinuousControl, number: number): number {
  const { milliDecimals = 0, step } = control.display!;
  if (step !== undefined) return step;
  const { factor, name } = writtenUnit(writtenAs(control), number, milliDecimals);
  return factor * 10 ** -decimalsIn(name, control.display!, control);
}

/** The number that a display shows for one that lies between two. */
export function displayed(control: ContinuousControl, number: number): number {
  const step = displayStep(control, number);
  const from = control.display!.step === undefined ? 0 : numbersOf(control)!.bounds[0];
  return from + Math.round((number - from) / step + 1e-9) * step;
}

/** What a display shows: `304 ms`, `1.52 s`, `-17`, `off`. */
export function displayText(control: ContinuousControl, number: number): string {
  const { milliDecimals = 0, words = [] } = control.display!;
  const value = displayed(control, number);
  const word = words.find(({ at }) => Math.abs(at - value) < displayStep(control, at) / 2);
  if (word) return word.word;
  const { name, factor } = writtenUnit(writtenAs(control), value, milliDecimals);
  const text = noMinusZero((value / factor).toFixed(decimalsIn(name, control.display!, control)));
  return name === '' ? text : `${text} ${name}`;
}

/** What one reads on a printed scale, with so many decimals of the scale's own unit at most. */
export function printedText(scale: Scale, number: number, decimals: number): string {
  const { name, factor } = writtenUnit(scale, number);
  const places = Math.max(0, decimals + Math.round(Math.log10(factor)));
  const text = noMinusZero(formatTrimmed(number / factor, places));
  return text + (name === '' ? '' : name === '%' ? '%' : ` ${name}`);
}

const noMinusZero = (text: string): string => (/^-0(\.0*)?$/.test(text) ? text.slice(1) : text);

/**
 * The scale's own number for one that is typed without a unit: in the unit that the scale is written in.
 * @returns both, smaller unit first, when it may be either
 */
export function typedNumbers(scale: Pick<Scale, 'unit' | 'writtenIn'>, number: number): number[] {
  switch (scale.writtenIn) {
    case 'ms':
      return [number * MILLI.factor];
    case 'kHz':
      return [number * KILO.factor];
    case 'ms and s':
      return [number * MILLI.factor, number];
    case 'Hz and kHz':
      return [number, number * KILO.factor];
    case undefined:
      return [number];
  }
}
