import type { ContinuousControl, PhysicalUnit } from '../instrument/schema';
import type { Point } from '../reading/interpolate';
import { parseReading } from '../reading/parse';
import { readUnit, UNIT_PATTERN } from '../reading/unit';

/** What was understood of a line of measured places, or where it was not. */
export type ReadPoints =
  | { ok: true; points: Point[] }
  | {
      ok: false;
      message: string;
      /** First and last character, from 0. */ from: number;
      to: number;
    };

const PAIR = /^\s*(.+?)\s*(?:=|:|\bis\b|\bgives\b|→)\s*(.+?)\s*$/i;
const AMOUNT = new RegExp(String.raw`^([+-]?(?:\d+(?:\.\d+)?|\.\d+))\s*(${UNIT_PATTERN})?$`, 'i');

/**
 * Reads what a control comes to at some of its places: `0 is 20 Hz, 5 is 600, 10 is 18k`. The place is a reading of the
 * control, the rest a number in the unit of what it sets, or in one that is said.
 * @param unit of the parameter
 * @returns points `[share of travel, value]` by rising travel, each place once
 */
export function readTaperPoints(
  text: string,
  control: ContinuousControl,
  unit: PhysicalUnit,
): ReadPoints {
  const found = new Map<number, number>();
  let at = 0;
  for (const part of text.split(/[,;\n]/)) {
    const [from, to] = [at, at + part.length];
    at = to + 1;
    if (part.trim() === '') continue;
    const refuse = (message: string): ReadPoints => ({ ok: false, message, from, to });
    const pair = PAIR.exec(part);
    if (!pair) return refuse(`"${part.trim()}": expected a place and what it comes to: 5 is 600`);
    const [, place = '', value = ''] = pair;
    const read = parseReading(place, control);
    if (!read.ok || read.setting?.kind !== 'set' || typeof read.setting.value !== 'number')
      return refuse(`"${place}" is no place of it${read.ok ? '' : `: ${read.message}`}`);
    const amount = AMOUNT.exec(value.replace(/[−‐‑]/g, '-').replace(/^[x×]\s*(.*)$/i, '$1 x'));
    if (!amount) return refuse(`"${value}" is no number`);
    const said = amount[2] === undefined ? { unit, factor: 1 } : readUnit(amount[2])!;
    const inside = factorTo(unit, said.unit);
    if (inside === undefined)
      return refuse(`It is set in ${unit === '' ? 'plain numbers' : unit}, not in ${amount[2]}`);
    found.set(read.setting.value, Number(amount[1]) * said.factor * inside);
  }
  return { ok: true, points: [...found].sort(([a], [b]) => a - b) };
}

/** What a number in a unit is multiplied with to be one in another; undefined: they measure different things. */
function factorTo(wanted: PhysicalUnit, said: PhysicalUnit): number | undefined {
  if (wanted === said) return 1;
  const pitches: Partial<Record<PhysicalUnit, number>> = { cents: 1, st: 100, oct: 1200 };
  const [a, b] = [pitches[said], pitches[wanted]];
  if (a !== undefined && b !== undefined) return a / b;
  const shares: Partial<Record<PhysicalUnit, number>> = { '%': 1, x: 100, '': 100 };
  const [c, d] = [shares[said], shares[wanted]];
  return c !== undefined && d !== undefined ? c / d : undefined;
}
