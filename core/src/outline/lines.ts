import { LARGEST_SHEET } from '../instrument/limits';
import type { Instrument } from '../instrument/schema';
import { instrumentOf } from './instrument';
import { readOutline } from './read';

const HEAD = /^([^<>+=\s](?:.*\S)?)\s*:\s*(?:as\s+.+|module\s+[a-z-]+|[a-z-]*)$/i;

/** Name of the block that the rows of a cabinet are, which no section can have. */
export const ROWS = '=';

/** The lines of each section of an outline, from its head to the line before the next one's; and those of a cabinet's rows. */
export function blocksOf(text: string): { name: string; from: number; to: number }[] {
  const lines = text.split(/\r?\n/);
  const blocks: { name: string; from: number; to: number }[] = [];
  lines.forEach((line, i) => {
    const name = HEAD.exec(line.trim())?.[1];
    // What looks like a head and is none, `wave: saw`, is a control of the section above: only names that are read count.
    if (name !== undefined) blocks.push({ name, from: i, to: lines.length });
    else if (line.trim().startsWith(ROWS) && blocks.at(-1)?.name !== ROWS)
      blocks.push({ name: ROWS, from: i, to: lines.length });
  });
  const read = new Set(readOutline(text).outline.sections.map((s) => s.name.toLowerCase()));
  const heads = blocks.filter((b) => b.name === ROWS || read.has(b.name.toLowerCase()));
  return heads.map((b, i) => ({ ...b, to: heads[i + 1]?.from ?? lines.length }));
}

/** An outline with lines at the end of a section, before what is empty there; undefined when there is no such section. */
export function withLinesIn(
  text: string,
  section: string,
  added: readonly string[],
): string | undefined {
  const block = blocksOf(text).find((b) => b.name.toLowerCase() === section.toLowerCase());
  if (!block) return undefined;
  const lines = text.split(/\r?\n/);
  let at = block.to;
  while (at > block.from + 1 && lines[at - 1]!.trim() === '') at--;
  return [...lines.slice(0, at), ...added, ...lines.slice(at)].join('\n');
}

/**
 * The instrument described by another text, everything where it was put.
 * @throws Error with the first fault that the text has more than it had, or when the sheet has no room
 */
export function retyped(before: Instrument, text: string): Instrument {
  const faults = readOutline(before.outline ?? '').faults.map((f) => f.message);
  const reading = readOutline(text);
  const fault = reading.faults.find((f) => !faults.includes(f.message));
  if (fault) throw new Error(fault.message);
  const arranged = { ...before, panel: { ...before.panel, arranged: true as const } };
  const next = instrumentOf(reading.outline, text, arranged);
  if (!next.panel.arranged) throw new Error(NO_ROOM);
  return next;
}

/** A sheet that would be larger than any. */
export const NO_ROOM = `The sheet has no room for that: it has ${LARGEST_SHEET} units each way at most.`;
