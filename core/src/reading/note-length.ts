import { barsToSeconds, noteLength } from '../theory/time';

const FACTORS: Readonly<Record<string, number>> = { '': 1, '.': 1.5, d: 1.5, t: 2 / 3 };
const NAMES: Readonly<Record<string, number>> = {
  whole: 1,
  half: 2,
  quarter: 4,
  eighth: 8,
  sixteenth: 16,
  'thirty-second': 32,
};
/** Quarter notes of a bar. */
const BEATS = 4;

const FRACTION = /^(\d{1,2})\/(\d{1,3}) ?(\.|d|t)?$/i;
const BARS = /^(\d{1,3}(?:[.,]\d+)?|a|one|two|four|eight|sixteen) bars?$/i;
const NAMED = new RegExp(
  `^(?:an? )?(?:(dotted|triplet) )?(${Object.keys(NAMES).join('|')})(?: (note))?(?: (triplet))?$`,
  'i',
);
const COUNTS: Readonly<Record<string, number>> = {
  a: 1,
  one: 1,
  two: 2,
  four: 4,
  eight: 8,
  sixteen: 16,
};

/**
 * Seconds of a note length in words: `1/4`, `1/8.` (dotted), `1/16t` (a triplet's), `3/16`, `dotted eighth`, `half note`, `8 bars` of four. Undefined when it is none.
 * @param tempo quarter notes a minute
 */
export function readNoteLength(text: string, tempo: number): number | undefined {
  const fraction = FRACTION.exec(text);
  if (fraction) {
    const [, count, division, mark = ''] = fraction;
    if (Number(division) === 0) return undefined;
    return noteLength(tempo, Number(division), Number(count) * FACTORS[mark.toLowerCase()]!);
  }
  const bars = BARS.exec(text)?.[1]?.toLowerCase();
  if (bars !== undefined) {
    return barsToSeconds(COUNTS[bars] ?? Number(bars.replace(',', '.')), BEATS, tempo);
  }
  const named = NAMED.exec(text);
  if (!named) return undefined;
  const kind = (named[1] ?? named[4] ?? '').toLowerCase();
  // By itself `half` is a place, and so is a quarter.
  if (!kind && !named[3] && /^(whole|half|quarter)$/i.test(named[2]!)) return undefined;
  const factor = kind === 'dotted' ? 1.5 : kind === 'triplet' ? 2 / 3 : 1;
  return noteLength(tempo, NAMES[named[2]!.toLowerCase()]!, factor);
}
