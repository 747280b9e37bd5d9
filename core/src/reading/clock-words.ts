/** Clock times in words: `half past two`, `quarter to 11`, `three o'clock`. */
const HOURS = [
  'twelve',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
];

const PAST: Record<string, number> = { half: 30, quarter: 15 };

function hour(word: string): number | undefined {
  const named = HOURS.indexOf(word);
  if (named >= 0) return named;
  const number = /^\d{1,2}$/.test(word) ? Number(word) : NaN;
  return number >= 1 && number <= 12 ? number % 12 : undefined;
}

/** Hours and minutes of a time in words, or undefined when it is none. */
export function readClockWords(text: string): { hours: number; minutes: number } | undefined {
  const words = text.trim().toLowerCase();
  const sharp = /^(\w+) o['’]?clock$/.exec(words);
  if (sharp) {
    const hours = hour(sharp[1]!);
    return hours === undefined ? undefined : { hours, minutes: 0 };
  }
  const parts = /^(?:a )?(half|quarter) (past|to) (\w+)$/.exec(words);
  if (!parts) return undefined;
  const hours = hour(parts[3]!);
  if (hours === undefined) return undefined;
  const minutes = PAST[parts[1]!]!;
  return parts[2] === 'past'
    ? { hours, minutes }
    : { hours: (hours + 11) % 12, minutes: 60 - minutes };
}
