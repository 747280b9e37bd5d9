import { EntitySchema } from 'typeorm';

/** An instrument definition, as its document. */
export interface InstrumentRow {
  id: string;
  document: string;
  createdAt: string;
}

/** What the library lists of a patch; its contents are its versions'. */
export interface PatchRow {
  id: string;
  instrumentId: string;
  name: string;
  song: string;
  role: string;
  about: string;
  recorded: number;
  /** Number of the newest version. */
  head: number;
  createdAt: string;
  updatedAt: string;
  deletedAt: string | null;
}

/** One state of a patch. Never changed once written: the database itself refuses. */
export interface VersionRow {
  patchId: string;
  number: number;
  document: string;
  /** How it came about: `created`, `edited`, `version 3 again` ... */
  origin: string;
  createdAt: string;
}

/** Steps of a rebuild that have been ticked. */
export interface ProgressRow {
  patchId: string;
  /** What the panel was before: `start`, `init` or another patch's id. */
  origin: string;
  done: string;
  updatedAt: string;
}

export const InstrumentEntity = new EntitySchema<InstrumentRow>({
  name: 'instrument',
  columns: {
    id: { type: 'text', primary: true },
    document: { type: 'text' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export const PatchEntity = new EntitySchema<PatchRow>({
  name: 'patch',
  columns: {
    id: { type: 'text', primary: true },
    instrumentId: { type: 'text', name: 'instrument_id' },
    name: { type: 'text' },
    song: { type: 'text' },
    role: { type: 'text' },
    about: { type: 'text' },
    recorded: { type: 'integer' },
    head: { type: 'integer' },
    createdAt: { type: 'text', name: 'created_at' },
    updatedAt: { type: 'text', name: 'updated_at' },
    deletedAt: { type: 'text', name: 'deleted_at', nullable: true },
  },
});

export const VersionEntity = new EntitySchema<VersionRow>({
  name: 'patch_version',
  columns: {
    patchId: { type: 'text', primary: true, name: 'patch_id' },
    number: { type: 'integer', primary: true },
    document: { type: 'text' },
    origin: { type: 'text' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export const ProgressEntity = new EntitySchema<ProgressRow>({
  name: 'rebuild_progress',
  columns: {
    patchId: { type: 'text', primary: true, name: 'patch_id' },
    origin: { type: 'text', primary: true },
    done: { type: 'text' },
    updatedAt: { type: 'text', name: 'updated_at' },
  },
});

/** A unit: one specimen of an instrument. */
export interface UnitRow {
  id: string;
  instrumentId: string;
  name: string;
  document: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  deletedAt: string | null;
}

export const UnitEntity = new EntitySchema<UnitRow>({
  name: 'unit',
  columns: {
    id: { type: 'text', primary: true },
    instrumentId: { type: 'text', name: 'instrument_id' },
    name: { type: 'text' },
    document: { type: 'text' },
    version: { type: 'integer' },
    createdAt: { type: 'text', name: 'created_at' },
    updatedAt: { type: 'text', name: 'updated_at' },
    deletedAt: { type: 'text', name: 'deleted_at', nullable: true },
  },
});

/** A session: a track made of passes. */
export interface SessionRow {
  id: string;
  name: string;
  song: string;
  document: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  deletedAt: string | null;
}

export const SessionEntity = new EntitySchema<SessionRow>({
  name: 'session',
  columns: {
    id: { type: 'text', primary: true },
    name: { type: 'text' },
    song: { type: 'text' },
    document: { type: 'text' },
    version: { type: 'integer' },
    createdAt: { type: 'text', name: 'created_at' },
    updatedAt: { type: 'text', name: 'updated_at' },
    deletedAt: { type: 'text', name: 'deleted_at', nullable: true },
  },
});

/** A recording of a pass: a WAV file, as it was given. */
export interface TakeRow {
  id: string;
  sessionId: string;
  name: string;
  seconds: number;
  bytes: Buffer;
  createdAt: string;
}

export const TakeEntity = new EntitySchema<TakeRow>({
  name: 'take',
  columns: {
    id: { type: 'text', primary: true },
    sessionId: { type: 'text', name: 'session_id' },
    name: { type: 'text' },
    seconds: { type: 'real' },
    bytes: { type: 'blob' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});
