import type { Outline, OutlineControl, OutlineJack } from './outline';
import { guessKind } from './guess';
import { writeAmount, writeScale } from './scale';

const CC_AT_END = /\scc\d{1,3}$/i;

/** A panel in words, in the one form that reads back as it was. */
export function writeOutline({ name, maker, sections, rows }: Outline): string {
  const title = writeTitle(name, maker);
  const blocks = sections.map((section) => [
    `${section.name}:${section.module ? ' module' : ''}${section.stage ? ` ${section.stage}` : ''}`,
    ...section.controls.map(writeControl),
    ...section.jacks.map(writeJack),
  ]);
  const cabinet = rows?.map((row) => `= ${row.join(', ')}`.trimEnd());
  return [...(title === '' ? [] : [[title]]), ...blocks, ...(cabinet ? [cabinet] : [])]
    .map((lines) => lines.join('\n'))
    .join('\n\n');
}

/** A name or a maker that holds a `by` of its own is told apart from the one that parts them. */
function writeTitle(name: string, maker: string): string {
  if (maker === '') return /\sby(\s|$)/.test(name) ? `${name} by` : name;
  return `${name} by${/(^|\s)by(\s|$)/.test(maker) ? ':' : ''} ${maker}`;
}

export function writeControl(control: OutlineControl): string {
  const { name, kind, marks, positions, rest, route, second, amount, cc, step, words } = control;
  const parted = positions?.some((p) => p.includes('/')) ? ' / ' : '/';
  const spec = positions?.join(parted) ?? (marks ? writeScale({ ...control, marks }) : '');
  const behind = [
    words ? spec + wordsShown(words, control) : spec,
    step === undefined ? '' : `by ${step}`,
    control.display === undefined ? '' : control.display ? 'display' : '!printed',
    kind ?? '',
    amount === undefined ? '' : amount ? '!amount' : '!plain',
    cc === undefined ? '' : `cc${cc}`,
    rest === undefined ? '' : `= ${rest}`,
    route ? `via ${route.join(' > ')}` : '',
  ].filter((part) => part !== '');
  // A name that ends like a controller number is told from one by what stands behind it.
  if (behind.length === 0 && CC_AT_END.test(name)) behind.push(guessKind(control));
  // The colon keeps words of several parts from being taken for the name.
  return `${second ? '+ ' : ''}${name}${behind.length > 0 ? `: ${behind.join(' ')}` : ''}`;
}

const wordsShown = (
  words: NonNullable<OutlineControl['words']>,
  { unit, writtenIn }: OutlineControl,
): string =>
  words.map(({ at, word }) => `, ${writeAmount(at, { unit, writtenIn })} is ${word}`).join('');

export function writeJack({ name, direction, signal, standard }: OutlineJack): string {
  return `${direction === 'in' ? '<' : '>'} ${name}${signal ? `, ${signal}` : ''}${standard ? ` ${standard}` : ''}`;
}
