import { EntitySchema } from 'typeorm';
import { headEntity, versionEntity } from './document-entities';

/** An instrument; its definitions are its versions. */
export interface InstrumentRow {
  id: string;
  /** Number of the newest version. */
  head: number;
  createdAt: string;
}

export const InstrumentEntity = new EntitySchema<InstrumentRow>({
  name: 'instrument',
  columns: {
    id: { type: 'text', primary: true },
    head: { type: 'integer' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export const InstrumentVersionEntity = versionEntity('instrument');

/** What the library lists of a patch. */
export interface ListedPatch {
  instrumentId: string;
  name: string;
  song: string;
  role: string;
  about: string;
  recorded: number;
}

export const PatchEntity = headEntity<ListedPatch>('patch', {
  instrumentId: { type: 'text', name: 'instrument_id' },
  name: { type: 'text' },
  song: { type: 'text' },
  role: { type: 'text' },
  about: { type: 'text' },
  recorded: { type: 'integer' },
});
export const PatchVersionEntity = versionEntity('patch');

/** What a unit, one specimen of an instrument, is found by. */
export interface ListedUnit {
  instrumentId: string;
  name: string;
}

export const UnitEntity = headEntity<ListedUnit>('unit', {
  instrumentId: { type: 'text', name: 'instrument_id' },
  name: { type: 'text' },
});
export const UnitVersionEntity = versionEntity('unit');

/** What a session, a track made of passes, is found by. */
export interface ListedSession {
  name: string;
  song: string;
}

export const SessionEntity = headEntity<ListedSession>('session', {
  name: { type: 'text' },
  song: { type: 'text' },
});
export const SessionVersionEntity = versionEntity('session');

/** Steps of a rebuild that have been ticked. */
export interface ProgressRow {
  patchId: string;
  /** What the panel was before: `start`, `init` or another patch's id. */
  origin: string;
  done: string;
  updatedAt: string;
}

export const ProgressEntity = new EntitySchema<ProgressRow>({
  name: 'rebuild_progress',
  columns: {
    patchId: { type: 'text', primary: true, name: 'patch_id' },
    origin: { type: 'text', primary: true },
    done: { type: 'text' },
    updatedAt: { type: 'text', name: 'updated_at' },
  },
});

/** A recording of a pass: a WAV file, as it was given, in pieces. */
export interface TakeRow {
  id: string;
  sessionId: string;
  name: string;
  seconds: number;
  size: number;
  createdAt: string;
}

export const TakeEntity = new EntitySchema<TakeRow>({
  name: 'take',
  columns: {
    id: { type: 'text', primary: true },
    sessionId: { type: 'text', name: 'session_id' },
    name: { type: 'text' },
    seconds: { type: 'real' },
    size: { type: 'integer' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export interface TakeChunkRow {
  takeId: string;
  number: number;
  bytes: Buffer;
}

export const TakeChunkEntity = new EntitySchema<TakeChunkRow>({
  name: 'take_chunk',
  columns: {
    takeId: { type: 'text', primary: true, name: 'take_id' },
    number: { type: 'integer', primary: true },
    bytes: { type: 'blob' },
  },
});

export const entities = [
  InstrumentEntity,
  InstrumentVersionEntity,
  PatchEntity,
  PatchVersionEntity,
  ProgressEntity,
  UnitEntity,
  UnitVersionEntity,
  SessionEntity,
  SessionVersionEntity,
  TakeEntity,
  TakeChunkEntity,
];
