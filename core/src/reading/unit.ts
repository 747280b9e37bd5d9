import type { PhysicalUnit } from '../instrument/schema';
import { toDecibels } from '../theory/level';

interface Spelling {
  unit: PhysicalUnit;
  factor: number;
}

/** Spellings of units as people write them, lower case, each with its factor to the base unit. */
const SPELLINGS: Record<string, Spelling> = {
  hz: { unit: 'Hz', factor: 1 },
  khz: { unit: 'Hz', factor: 1000 },
  k: { unit: 'Hz', factor: 1000 },
  s: { unit: 's', factor: 1 },
  sec: { unit: 's', factor: 1 },
  ms: { unit: 's', factor: 0.001 },
  us: { unit: 's', factor: 0.000001 },
  st: { unit: 'st', factor: 1 },
  semitones: { unit: 'st', factor: 1 },
  semitone: { unit: 'st', factor: 1 },
  ct: { unit: 'cents', factor: 1 },
  cent: { unit: 'cents', factor: 1 },
  cents: { unit: 'cents', factor: 1 },
  '%': { unit: '%', factor: 1 },
  v: { unit: 'V', factor: 1 },
  mv: { unit: 'V', factor: 0.001 },
  db: { unit: 'dB', factor: 1 },
  oct: { unit: 'oct', factor: 1 },
  octaves: { unit: 'oct', factor: 1 },
  octave: { unit: 'oct', factor: 1 },
  x: { unit: 'x', factor: 1 },
};

/** What a written unit means, or undefined when it is none. */
export const readUnit = (text: string): Spelling | undefined => SPELLINGS[text.toLowerCase()];

/** Pattern source of every spelling, longest first. */
export const UNIT_PATTERN = Object.keys(SPELLINGS)
  .sort((a, b) => b.length - a.length)
  .join('|');

const trimmed = (value: number, decimals: number): string => {
  const text = value.toFixed(decimals);
  return text.includes('.') ? text.replace(/\.?0+$/, '') : text;
};

/** A number with three significant figures and no needless zeros. */
const figures = (value: number): string => {
  const size = Math.abs(value);
  return trimmed(value, size >= 100 ? 0 : size >= 10 ? 1 : 2);
};

/** Physical value in words: 0.18 s is `180 ms`, 1654 Hz is `1.65 kHz`, a duty of 18 is `18 %`. */
export function formatPhysical(value: number, unit: PhysicalUnit): string {
  switch (unit) {
    case 'Hz':
      return Math.abs(value) >= 1000 ? `${figures(value / 1000)} kHz` : `${figures(value)} Hz`;
    case 's':
      return Math.abs(value) >= 1 ? `${figures(value)} s` : `${figures(value * 1000)} ms`;
    case '':
      return figures(value);
    case 'x':
      // A gain says more in decibels, until nothing passes.
      return value > 0
        ? `×${figures(value)} (${figures(toDecibels(value))} dB)`
        : `×${figures(value)}`;
    default:
      return `${value > 0 && (unit === 'st' || unit === 'cents' || unit === 'oct') ? '+' : ''}${figures(value)} ${unit}`;
  }
}

export { trimmed as formatTrimmed };
