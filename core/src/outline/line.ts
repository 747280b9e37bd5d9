import { continuousKinds, switchedKinds } from '../instrument/schema';
import { jackSignalSchema } from '../instrument/jack';
import { LONGEST_NAME, type Kind, type OutlineControl, type OutlineJack } from './outline';
import {
  readOnScale,
  scaleAtEnd,
  ScaleFault,
  scaleFault,
  UNITS_IN_WORDS,
  type WrittenScale,
} from './scale';

/** A fault within a line: where, and what. */
export class LineFault extends Error {
  constructor(
    message: string,
    readonly part: string,
  ) {
    super(message);
  }
}

const KINDS: Readonly<Record<string, Kind>> = {
  ...Object.fromEntries([...continuousKinds, ...switchedKinds].map((k) => [k, k])),
  fader: 'slider',
  dial: 'knob',
  switch: 'rotary',
};
export const readKind = (word: string): Kind | undefined =>
  Object.hasOwn(KINDS, word.toLowerCase()) ? KINDS[word.toLowerCase()] : undefined;

const isSwitchedKind = (kind: Kind): boolean => (switchedKinds as readonly string[]).includes(kind);

/** What stands behind a name: scale or positions, unit, kind, rest, way there. */
export type ControlWords = Omit<OutlineControl, 'name' | 'second'>;

function nameOf(text: string): string {
  const name = text.replace(/\s*:$/, '').trim().replace(/\s+/g, ' ');
  if (name === '') throw new LineFault('A control has a name: write it first.', text);
  if (name.length > LONGEST_NAME)
    throw new LineFault(`A name has ${LONGEST_NAME} letters at most.`, name);
  return name;
}

function positionsOf(text: string): string[] {
  // With room around the strokes that part them, positions may have strokes of their own.
  const positions = text
    .split(/\s\/\s/.test(text) ? /\s\/\s/ : '/')
    .map((p) => p.trim().replace(/\s+/g, ' '));
  if (positions.some((p) => p === ''))
    throw new LineFault('Between two strokes a position is missing.', text);
  const twice = positions.find((p, i) => positions.indexOf(p) !== i);
  if (twice) throw new LineFault(`The position "${twice}" is there twice.`, text);
  if (positions.length > 64) throw new LineFault('A switch has 64 positions at most.', text);
  const long = positions.find((p) => p.length > LONGEST_NAME);
  if (long) throw new LineFault(`A position has ${LONGEST_NAME} letters at most.`, long);
  return positions;
}

const FLAGS = new Set(['!amount', '!plain']);
/** `cc74`: the controller number that it sends. */
const CC = /^cc(\d{1,3})$/i;
export const HIGHEST_CC = 119;

const lastWord = (text: string): string => /\S+$/.exec(text)?.[0] ?? '';
const DISPLAYS: Readonly<Record<string, boolean>> = { display: true, '!printed': false };
/** `by 0.5`: how far apart a display's numbers are. */
const STEP = /\sby\s+(\d+(?:\.\d+)?)$/i;
/** `, 0 is off, 127 is hold`: words that a display shows for numbers. */
const WORDS = /((?:\s*,\s*[^,=]+?\s+is\s+[^,=]+)+)$/i;

/** The scale that a text ends with. @throws LineFault naming it, when it cannot be one */
function endingScale(text: string): ReturnType<typeof scaleAtEnd> {
  try {
    return scaleAtEnd(text);
  } catch (error) {
    if (!(error instanceof ScaleFault)) throw error;
    throw new LineFault(error.message, text);
  }
}

/** A kind stands behind a scale or positions: `mod wheel` is a name. */
function hasSpec(text: string): boolean {
  const last = lastWord(text);
  if (text.includes('/') || FLAGS.has(last) || CC.test(last)) return true;
  const behind = [WORDS, STEP].find((form) => form.test(text));
  if (behind) return hasSpec(text.replace(behind, ''));
  if (Object.hasOwn(DISPLAYS, last) || readKind(last))
    return /\s/.test(text.trim()) && hasSpec(text.trim().replace(/\s+\S+$/, ''));
  return endingScale(text) !== null;
}

/** Behind positions stands a kind of switch; other words belong to the last position. */
const mayBe = (kind: Kind, before: string): boolean =>
  !before.includes('/') || isSwitchedKind(kind);

/** Takes what a control's words end with off their end, one after the other. */
function takeEnd(text: string): { rest: string; words: ControlWords; shownWords: string } {
  const words: ControlWords = {};
  let shownWords = '';
  let rest = text;
  const via = /(?:^|\s)via\s+(.+)$/i.exec(rest);
  if (via) {
    words.route = via[1]!.split('>').map((step) => step.trim());
    if (
      words.route.some((step) => step === '' || step.length > LONGEST_NAME) ||
      words.route.length > 12
    )
      throw new LineFault('The way to it is up to twelve presses, with > between them.', via[1]!);
    rest = rest.slice(0, via.index);
  }
  const at = /\s*=\s*([^=]+)$/.exec(rest);
  if (at) {
    words.rest = at[1]!.trim();
    rest = rest.slice(0, at.index);
  }
  for (;;) {
    rest = rest.trimEnd();
    const shown = WORDS.exec(rest);
    const step = STEP.exec(rest);
    const [, before = '', last = ''] = /^(.*\S)\s+(\S+)$/.exec(rest) ?? [];
    if (before === '') return { rest, words, shownWords };
    const kind = readKind(last);
    if (FLAGS.has(last) && words.amount === undefined) {
      words.amount = last === '!amount';
      rest = before;
    } else if (CC.test(last) && words.cc === undefined) {
      words.cc = Number(CC.exec(last)![1]);
      rest = before;
    } else if (kind && words.kind === undefined && hasSpec(before) && mayBe(kind, before)) {
      words.kind = kind;
      rest = before;
    } else if (Object.hasOwn(DISPLAYS, last) && words.display === undefined && hasSpec(before)) {
      words.display = DISPLAYS[last]!;
      rest = before;
    } else if (step && words.step === undefined && hasSpec(rest.slice(0, step.index))) {
      words.step = Number(step[1]);
      rest = rest.slice(0, step.index);
    } else if (shown && shownWords === '' && hasSpec(rest.slice(0, shown.index))) {
      shownWords = shown[1]!;
      rest = rest.slice(0, shown.index);
    } else return { rest, words, shownWords };
  }
}

/** Scale or positions, with everything behind them, where no name stands before. */
export function readWords(text: string): ControlWords {
  // A name stands before, as in a whole line.
  const { rest, words, shownWords } = takeEnd(`x ${text}`.trimEnd());
  const spec = rest.slice(1).trim();
  if (spec === '') return words;
  if (spec.includes('/')) return fit({ ...words, positions: positionsOf(spec) });
  const alone = readKind(spec);
  if (alone && words.kind === undefined) return fit({ ...words, kind: alone });
  const found = endingScale(spec);
  if (found?.before !== '') throw new LineFault(notAScale(spec), spec);
  return fit(withScale(words, found.scale, spec, shownWords));
}

const notAScale = (spec: string): string =>
  `"${spec}" is no scale: write its ends and a unit, like 0..10 or 20..20k Hz. Units are ${UNITS_IN_WORDS}.`;

function withScale(
  words: ControlWords,
  scale: WrittenScale,
  spec: string,
  shownWords: string,
): ControlWords {
  const fault = scaleFault(scale.marks);
  if (fault) throw new LineFault(fault, spec);
  const shown = shownWords === '' ? {} : { words: wordsOf(shownWords, scale) };
  return { ...words, ...scale, ...shown };
}

/** Reads `, 0 is off, 127 is hold`. */
function wordsOf(text: string, scale: WrittenScale): NonNullable<ControlWords['words']> {
  const parts = text
    .split(',')
    .map((part) => part.trim())
    .filter((part) => part !== '');
  return parts.map((part) => {
    const [, number = '', word = ''] = /^(.+?)\s+is\s+(.+)$/i.exec(part) ?? [];
    const at = readOnScale(number, scale);
    const [lo, hi] = [scale.marks[0]!.value, scale.marks.at(-1)!.value];
    if (!(at >= Math.min(lo, hi) && at <= Math.max(lo, hi)))
      throw new LineFault(`Its scale does not reach ${number}.`, part);
    if (word.length > LONGEST_NAME)
      throw new LineFault(`A word has ${LONGEST_NAME} letters at most.`, word);
    return { at, word };
  });
}

function fit(words: ControlWords): ControlWords {
  if (words.kind === undefined) return words;
  if (isSwitchedKind(words.kind) && !words.positions)
    throw new LineFault(
      `A ${words.kind} has positions: write them with strokes between, like off/on.`,
      words.kind,
    );
  if (!isSwitchedKind(words.kind) && words.positions)
    throw new LineFault(
      `A ${words.kind} has no positions: leave the kind out, or write toggle, rotary or button.`,
      words.kind,
    );
  return words;
}

/**
 * Reads a control's line: its name, then scale or positions, unit, kind, `= rest`, `via` its presses. A colon behind the name
 * sets it off from positions of several words.
 * @throws LineFault naming the part that is not understood
 */
export function readControl(text: string): OutlineControl {
  const set = /^(.*\S)\s*:\s+(.+)$/.exec(text);
  if (set) return { name: nameOf(set[1]!), ...readWords(set[2]!) };
  const bar = /^\|\s*(.+)$/.exec(text);
  if (bar) return withKind(readControl(bar[1]!), 'slider');
  const { rest, words, shownWords } = takeEnd(text);
  const stroke = rest.search(/\s*\//);
  const begin = stroke < 0 ? -1 : rest.lastIndexOf(' ', stroke - 1);
  if (stroke >= 0 && begin > 0) {
    const name = understoodName(rest.slice(0, begin));
    const positions = positionsOf(rest.slice(begin + 1));
    const long = positions.slice(1).find((p) => p.includes(' '));
    // `slope 12 low/24 low`: how many of the words before the stroke are the first position cannot be known.
    if (long && name.includes(' '))
      throw new LineFault(
        `Where does the first position begin? Write a colon behind the name: ${name}: ${positions.join('/')}`,
        rest,
      );
    return { name, ...fit({ ...words, positions }) };
  }
  const found = endingScale(rest);
  if (found && found.before !== '')
    return {
      name: understoodName(found.before),
      ...fit(withScale(words, found.scale, found.part, shownWords)),
    };
  return { name: understoodName(rest), ...fit(words) };
}

/** Numbers that look like a scale, or like one of its ends. */
const LIKE_A_SCALE =
  /(?<![\w.])[+-]?\d[\d.,]*k?(?:\s*(?:\.\.|;)|\s+to\s+[+-]?\d|\s*(?:k?hz|ms|cents|db|%)(?![a-z]))/i;

/** A name; what looks like a scale that was not understood is none. */
function understoodName(text: string): string {
  const like = LIKE_A_SCALE.exec(text);
  if (like) {
    const part = text.slice(like.index).trim();
    throw new LineFault(
      `${notAScale(part)} If it is a name, write a colon and what it is behind it: ${text}: knob`,
      part,
    );
  }
  return nameOf(text);
}

function withKind(control: OutlineControl, kind: Kind): OutlineControl {
  if (control.positions) throw new LineFault('A slider has no positions.', control.name);
  return { ...control, kind };
}

/** Reads what stands behind `<` (goes in) or `>` (comes out): a name, what it carries, and its standard. */
export function readJack(text: string): OutlineJack {
  const direction = text.startsWith('<') ? 'in' : 'out';
  let rest = text.slice(1).trim();
  const jack: Partial<OutlineJack> = {};
  const standard = /\s(V\/oct|Hz\/V)$/i.exec(rest);
  if (standard) {
    jack.standard = standard[1]!.toLowerCase() === 'hz/v' ? 'Hz/V' : 'V/oct';
    rest = rest.slice(0, standard.index);
  }
  const [, before = '', last = ''] = /^(.*\S)\s*[,:]\s*(\S+)$/.exec(rest) ?? [];
  if (last !== '') {
    const signal = jackSignalSchema.safeParse(last.toLowerCase());
    if (!signal.success)
      throw new LineFault(
        `A jack carries ${jackSignalSchema.options.join(', ')}: "${last}" is none of them.`,
        last,
      );
    jack.signal = signal.data;
    rest = before;
  }
  return { ...jack, name: nameOf(rest), direction };
}
