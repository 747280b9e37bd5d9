import { createHash } from 'node:crypto';
import { setImmediate as rest } from 'node:timers/promises';
import { editionOf, type Feed, type Session } from '@hurrel/core';
import { type Stores, storesByKind } from '../store/stores';
import type { ParcelItem, ParcelKind } from './manifest';

/** Documents that are read in one go. */
const AT_ONCE = 5;

/** Ids of what is wanted; absent: everything. */
export interface Wanted {
  patches?: readonly string[];
  instruments?: readonly string[];
  units?: readonly string[];
  sessions?: readonly string[];
  evenings?: readonly string[];
}

/** A file of a parcel with its contents: text, or pieces that are read when their turn comes. */
export interface Packed {
  item: ParcelItem;
  text?: string;
  pieces?: () => AsyncIterable<Uint8Array>;
}

/** A description of an instrument, and the versions that it stands for. */
interface Description {
  id: string;
  name: string;
  text: string;
  photograph: string | undefined;
  of: Set<number>;
}

/** Puts together what belongs into a parcel: with patches the descriptions they stand on and their units, with sessions their patches and takes, with sets their patches and units. */
export async function gather(services: Stores, wanted: Wanted): Promise<Packed[]> {
  const packed = new Map<string, Packed>();
  const documents = new Packer(packed);
  const all = Object.values(wanted).every((ids) => ids === undefined);
  const ids = async (kind: Listed, some?: readonly string[]) =>
    all ? (await headsOf(services, kind)).map((h) => h.id) : (some ?? []);

  const patches = new Set(await ids('patch', wanted.patches));
  for (const id of await ids('session', wanted.sessions)) {
    const { session } = await services.sessions.get(id);
    documents.add('session', id, session.name, JSON.stringify(session));
    for (const { patch } of session.passes) patches.add(patch);
    await addTakes(services, packed, id, session);
  }
  const units = new Set(await ids('unit', wanted.units));
  for (const id of await ids('evening', wanted.evenings)) {
    const { evening } = await services.evenings.get(id);
    documents.add('evening', id, evening.name, JSON.stringify(evening));
    for (const { plays } of evening.songs) for (const { patch } of plays) patches.add(patch);
    for (const { unit } of evening.panels) if (unit !== undefined) units.add(unit);
  }
  const editions = new Map<string, Description>();
  const stood = new Set<string>();
  const stand = async (id: string, edition?: number): Promise<void> => {
    const name = `${id} ${edition ?? 'newest'}`;
    if (stood.has(name)) return;
    stood.add(name);
    const instrument =
      edition === undefined
        ? (await services.instruments.get(id)).instrument
        : await services.instruments.of({ instrument: id, edition });
    const text = JSON.stringify(instrument);
    const known = editions.get(text) ?? {
      id,
      name: `${instrument.maker} ${instrument.name}`,
      text,
      photograph: instrument.panel.photograph?.id,
      of: new Set<number>(),
    };
    if (edition !== undefined) known.of.add(edition);
    editions.set(text, known);
  };
  let gathered = 0;
  for (const id of patches) {
    // Everybody else is answered in between.
    if (++gathered % AT_ONCE === 0) await rest();
    const found = await services.patches.get(id).catch(() => undefined);
    // A recording or a set may name a patch that is gone by now: it travels without it.
    if (!found) continue;
    const { patch } = found;
    documents.add('patch', id, patch.name, JSON.stringify(patch));
    if (patch.feed) await addSound(services, packed, patch.feed);
    if (patch.unit !== undefined) units.add(patch.unit);
    await stand(patch.instrument, editionOf(patch));
  }
  for (const id of units) {
    const found = await services.units.get(id).catch(() => undefined);
    if (!found) continue;
    documents.add('unit', id, found.unit.name, JSON.stringify(found.unit));
    await stand(found.unit.instrument);
  }
  const instruments = all
    ? (await services.instruments.all()).map((i) => i.id)
    : (wanted.instruments ?? []);
  for (const id of instruments) await stand(id);
  for (const { photograph } of editions.values())
    if (photograph !== undefined) await addPhotograph(services, packed, photograph);
  for (const { id, name, text, of } of editions.values())
    documents.add(
      'instrument',
      id,
      name,
      text,
      [...of].sort((a, b) => a - b),
    );
  return [...packed.values()];
}

type Listed = 'patch' | 'unit' | 'session' | 'evening';

async function headsOf(services: Stores, kind: Listed) {
  const store = storesByKind(services)[kind];
  const found: { id: string }[] = [];
  for (let page = 1; ; page++) {
    const { items } = await store.list({ page, size: 200 });
    found.push(...items);
    if (items.length < 200) return found;
  }
}

async function addTakes(
  services: Stores,
  packed: Map<string, Packed>,
  sessionId: string,
  session: Session,
): Promise<void> {
  const named = new Set(session.passes.flatMap((p) => p.take ?? []));
  for (const take of await services.takes.of(sessionId)) {
    if (!named.has(take.id)) continue;
    const pieces = async function* (): AsyncIterable<Uint8Array> {
      yield* (await services.takes.read(sessionId, take.id)).pieces;
    };
    const hash = createHash('sha256');
    let size = 0;
    for await (const piece of pieces()) {
      hash.update(piece);
      size += piece.length;
      await rest();
    }
    const path = `takes/${fileName(take.name)}-${take.id.slice(0, 8)}.wav`;
    packed.set(path, {
      item: {
        path,
        kind: 'take',
        id: take.id,
        name: take.name,
        session: sessionId,
        size,
        sha256: hash.digest('hex'),
      },
      pieces,
    });
  }
}

/** The photograph that a description lies on, once. */
async function addPhotograph(
  services: Stores,
  packed: Map<string, Packed>,
  id: string,
): Promise<void> {
  if (!(await services.photographs.has(id))) return;
  const { bytes } = await services.photographs.read(id);
  const path = `photographs/${id.slice(0, 16)}.jpg`;
  const item = { path, kind: 'photograph' as const, id, name: id, size: bytes.length, sha256: id };
  const pieces = async function* (): AsyncIterable<Uint8Array> {
    yield (await services.photographs.read(id)).bytes;
  };
  packed.set(path, { item, pieces });
}

/** What a patch is fed with, once; one that is not here any more is left out. */
async function addSound(
  services: Stores,
  packed: Map<string, Packed>,
  { sound: id, name }: Feed,
): Promise<void> {
  if (!(await services.sounds.has(id))) return;
  const { bytes } = await services.sounds.read(id);
  const path = `sounds/${id.slice(0, 16)}.wav`;
  const item = { path, kind: 'sound' as const, id, name, size: bytes.length, sha256: id };
  const pieces = async function* (): AsyncIterable<Uint8Array> {
    yield (await services.sounds.read(id)).bytes;
  };
  packed.set(path, { item, pieces });
}

const FOLDERS: Record<ParcelKind, string> = {
  instrument: 'instruments',
  unit: 'units',
  patch: 'patches',
  session: 'sessions',
  evening: 'sets',
  take: 'takes',
  photograph: 'photographs',
  sound: 'sounds',
};

/** Names the files, each once. */
class Packer {
  constructor(private readonly packed: Map<string, Packed>) {}

  add(kind: ParcelKind, id: string, name: string, text: string, editions?: number[]): void {
    const folder = `${FOLDERS[kind]}/${fileName(name)}`;
    let path = `${folder}.json`;
    for (let n = 2; this.packed.has(path); n++) path = `${folder}-${n}.json`;
    const bytes = Buffer.from(text);
    this.packed.set(path, {
      item: {
        path,
        kind,
        id,
        name: name.slice(0, 300),
        ...(editions ? { editions } : {}),
        size: bytes.length,
        sha256: createHash('sha256').update(bytes).digest('hex'),
      },
      text,
    });
  }
}

/** Words as a file's name, on any system. */
const fileName = (words: string): string =>
  words
    .normalize('NFKD')
    .replace(/[^\w -]+/g, '')
    .trim()
    .replace(/\s+/g, '-')
    .slice(0, 60)
    .toLowerCase() || 'nameless';
