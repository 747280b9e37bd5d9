import type { SwitchedControl } from '../instrument/schema';
import { readPlaceWords } from './place-words';
import { ReadingError } from './reading-error';

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/** Positions that a text may name: the one that is called so, or all that begin so. */
export const positionsNamed = (
  text: string,
  control: SwitchedControl,
): SwitchedControl['positions'] => {
  const wanted = text.toLowerCase();
  const exact = control.positions.filter((p) => p.name.toLowerCase() === wanted || p.id === wanted);
  return exact.length > 0
    ? exact
    : control.positions.filter((p) => p.name.toLowerCase().startsWith(wanted));
};

/** A position by its name, an unambiguous beginning of it, its place, or an end in words. */
export function readPosition(text: string, control: SwitchedControl): string {
  if (positionsNamed(text, control).length === 0) {
    const place = text === '0' ? 0 : readPlaceWords(text);
    if (place === 0) return control.positions[0]!.id;
    if (place === 1) return control.positions.at(-1)!.id;
  }
  const found = positionsNamed(text, control);
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
