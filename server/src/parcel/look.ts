import {
  diffPatches,
  type Evening,
  eveningDifferences,
  eveningSchema,
  type Instrument,
  instrumentDifferences,
  pieceDifferences,
  type Patch,
  patchSchema,
  type Session,
  sessionDifferences,
  sessionSchema,
  type Unit,
  unitDifferences,
  unitSchema,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { Problem } from '../problem';
import { type Stores, storesByKind } from '../store/stores';
import { readInstrument } from '../store/instruments';
import type { ParcelItem } from './manifest';
import { isRaw, type OpenParcel } from './open';

/** How something of a parcel stands to what is here. */
export type Standing = 'new' | 'same' | 'conflict' | 'removed';

interface Read<K extends string, D> {
  kind: K;
  item: ParcelItem;
  document: D;
}
export type ReadItem =
  | Read<'instrument', Instrument>
  | Read<'unit', Unit>
  | Read<'patch', Patch>
  | Read<'session', Session>
  | Read<'evening', Evening>;

/** One line of what a parcel brings. */
export interface Looked {
  /** `patch:<id>`; decisions go by it. */
  key: string;
  kind: ReadItem['kind'];
  id: string;
  name: string;
  standing: Standing;
  /** What differs here, in words: from mine to theirs. */
  differences: { pointer: string; subject: string; before: string; after: string }[];
  /** Its differences can be taken one by one. */
  mergeable: boolean;
}

/** Differences that are told of one document. */
const MOST_TOLD = 200;

/** Reads every document of a parcel. @throws Problem that names the file and the place in it */
export async function readDocuments(parcel: OpenParcel): Promise<ReadItem[]> {
  const read: ReadItem[] = [];
  for (const item of parcel.items) {
    if (isRaw(item)) continue;
    const source = await parcel.json(item);
    try {
      if (item.kind === 'instrument')
        read.push({ kind: 'instrument', item, document: readInstrument(source) });
      else if (item.kind === 'unit')
        read.push({ kind: 'unit', item, document: unitSchema.parse(source) });
      else if (item.kind === 'patch')
        read.push({ kind: 'patch', item, document: patchSchema.parse(source) });
      else if (item.kind === 'evening')
        read.push({ kind: 'evening', item, document: eveningSchema.parse(source) });
      else read.push({ kind: 'session', item, document: sessionSchema.parse(source) });
    } catch (error) {
      const first =
        error instanceof Problem
          ? (error.errors[0] ?? { pointer: '', message: error.detail })
          : placeOf(error);
      throw new Problem(
        422,
        'Not a parcel',
        `${item.path}, ${first.pointer || 'the whole'}: ${first.message}. Nothing was stored.`,
      );
    }
  }
  return read;
}

function placeOf(error: unknown): { pointer: string; message: string } {
  const issue = (error as { issues?: { path: PropertyKey[]; message: string }[] }).issues?.[0];
  return issue
    ? { pointer: `/${issue.path.map(String).join('/')}`, message: issue.message }
    : { pointer: '', message: 'it is no document' };
}

/** What a parcel brings, beside what is here. Of an instrument in several descriptions the newest speaks. */
export async function look(services: Stores, read: readonly ReadItem[]): Promise<Looked[]> {
  const newest = new Map<string, ReadItem>();
  for (const one of read) newest.set(keyOf(one), newer(newest.get(keyOf(one)), one));
  const looked: Looked[] = [];
  for (const one of newest.values()) looked.push(await lookAt(services, one));
  return looked;
}

export const keyOf = ({ kind, item }: Pick<ReadItem, 'kind' | 'item'>): string =>
  `${kind}:${item.id}`;

const lastEdition = ({ item }: ReadItem): number => item.editions?.at(-1) ?? Infinity;
const newer = (known: ReadItem | undefined, one: ReadItem): ReadItem =>
  known && lastEdition(known) > lastEdition(one) ? known : one;

async function lookAt(services: Stores, one: ReadItem): Promise<Looked> {
  const { id } = one.item;
  const facts = { key: keyOf(one), kind: one.kind, id, name: nameOf(one), mergeable: false };
  const mine = await mineOf(services, one);
  if (mine === undefined) return { ...facts, standing: 'new', differences: [] };
  if (mine === 'removed') return { ...facts, standing: 'removed', differences: [] };
  if (same(one, mine)) return { ...facts, standing: 'same', differences: [] };
  const told = await differences(services, one, mine);
  return {
    ...facts,
    standing: 'conflict',
    mergeable: one.kind !== 'instrument' || describedBoth(mine as Instrument, one.document),
    differences: told
      .slice(0, MOST_TOLD)
      .map(({ pointer, subject, before, after }) => ({ pointer, subject, before, after })),
  };
}

const nameOf = (one: ReadItem): string =>
  one.kind === 'instrument' ? `${one.document.maker} ${one.document.name}` : one.document.name;

/** The document of the same id that is here. */
async function mineOf(services: Stores, { kind, item }: ReadItem) {
  const found = await storesByKind(services)[kind].peek(item.id);
  return found === undefined || found === 'removed'
    ? found
    : ((found as unknown as Record<string, unknown>)[kind] as ReadItem['document']);
}

/** Versions of an instrument are numbered by each library for itself: they are no difference. */
function same({ kind, document }: ReadItem, mine: ReadItem['document']): boolean {
  if (kind !== 'patch') return equal(document, mine);
  const plain = ({ edition: _, ...rest }: Patch) => rest;
  return equal(plain(document), plain(mine as Patch));
}

/** Pieces that can be taken one by one, where both were described in words. */
const describedBoth = (mine: Instrument, theirs: Instrument): boolean =>
  mine.outline !== undefined && theirs.outline !== undefined;
const panelDifferences = (mine: Instrument, theirs: Instrument) =>
  describedBoth(mine, theirs)
    ? pieceDifferences(mine, theirs)
    : instrumentDifferences(mine, theirs);

async function differences(services: Stores, one: ReadItem, mine: ReadItem['document']) {
  if (one.kind === 'instrument') return panelDifferences(mine as Instrument, one.document);
  if (one.kind === 'session') return sessionDifferences(mine as Session, one.document);
  if (one.kind === 'evening') return eveningDifferences(mine as Evening, one.document);
  const here = mine as Patch | Unit;
  const panel = await services.instruments.of({
    instrument: here.instrument,
    ...(one.kind === 'patch' ? { edition: (mine as Patch).edition } : {}),
  });
  return one.kind === 'patch'
    ? diffPatches(panel, mine as Patch, { ...one.document, edition: (mine as Patch).edition })
    : unitDifferences(panel, mine as Unit, one.document);
}
