import {
  byId,
  type Choose,
  type Difference,
  entryDifferences,
  fieldDifferences,
  type Keyed,
  type Merge,
  mergeDocuments,
  type ToldField,
} from '../document';
import type { Pass, Session, SongPart } from './schema';

const FIELDS: ToldField<Session>[] = [
  ['name', 'Name', (s) => s.name],
  ['song', 'Song', (s) => s.song],
  ['tempo', 'Tempo', (s) => `${s.tempo} bpm`],
  ['about', 'About', (s) => s.about],
];

/** Differences from one state of a session to another: its fields, then part by part and pass by pass. */
export function sessionDifferences(before: Session, after: Session): Difference[] {
  const parts = byId([...before.parts, ...after.parts]);
  const passes = byId([...before.passes, ...after.passes]);
  return [
    ...fieldDifferences(FIELDS, before, after),
    ...entryDifferences(
      'parts',
      byId(before.parts),
      byId(after.parts),
      (id) => `Part ${parts[id]?.name ?? id}`,
      sayPart,
    ),
    ...entryDifferences(
      'passes',
      byId(before.passes),
      byId(after.passes),
      (id) => `Pass ${passes[id]?.name ?? id}`,
      (pass) => sayPass(pass, parts),
    ),
  ];
}

const sayPart = (part: SongPart | undefined): string =>
  part ? `${part.name}, ${part.bars} ${part.bars === 1 ? 'bar' : 'bars'}` : 'not there';

function sayPass(pass: Pass | undefined, parts: Record<string, SongPart>): string {
  if (!pass) return 'not there';
  const plays = Object.entries(pass.plays).map(
    ([part, variation]) =>
      `${parts[part]?.name ?? part}${variation === '' ? '' : ` (${variation})`}`,
  );
  const more = [
    `${pass.level} dB`,
    pass.pan !== 0 && `pan ${pass.pan}`,
    pass.muted && 'muted',
    pass.take !== undefined && 'a take',
  ];
  return [`${pass.name} in ${plays.join(', ') || 'no part'}`, ...more.filter(Boolean)].join(', ');
}

const KEYED: Keyed<Session> = {
  parts: (part: SongPart) => part.id,
  passes: (pass: Pass) => pass.id,
};

/** Merges two changes of one session, part by part and pass by pass; passes forget parts that are gone. */
export function mergeSessions(
  base: Session | null,
  mine: Session,
  theirs: Session,
  choose?: Choose,
): Merge<Session> {
  const { merged, conflicts } = mergeDocuments(KEYED, base, mine, theirs, choose);
  // A session has a part at least: when each side removed what the other kept, mine stay.
  const parts = merged.parts.length > 0 ? merged.parts : mine.parts;
  const there = new Set(parts.map((p) => p.id));
  const passes = merged.passes.map((pass) => ({
    ...pass,
    plays: Object.fromEntries(Object.entries(pass.plays).filter(([part]) => there.has(part))),
  }));
  return { merged: { ...merged, parts, passes }, conflicts };
}
