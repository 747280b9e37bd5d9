import { EntitySchema } from 'typeorm';
import { headEntity, versionEntity, VersionNameEntity, type VersionRow } from './document-entities';

/** What an instrument is listed by. */
export interface ListedInstrument {
  name: string;
  maker: string;
}

/** Whether it was put away: it is there for what was recorded on it, and not offered for anything new. */
interface PutAway {
  archivedAt: string | null;
}

export const InstrumentEntity = headEntity<ListedInstrument & PutAway>('instrument', {
  name: { type: 'text' },
  maker: { type: 'text' },
  archivedAt: { type: 'text', name: 'archived_at', nullable: true },
});

/** A description of an instrument, and since which of its versions everything recorded means the same. */
export interface EditionRow extends VersionRow {
  since: number;
}

export const InstrumentVersionEntity = versionEntity<EditionRow>('instrument', {
  since: { type: 'integer' },
});

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

/** What a set, an evening on stage, is found by. */
export interface ListedEvening {
  name: string;
  date: string;
}

export const EveningEntity = headEntity<ListedEvening>('evening', {
  name: { type: 'text' },
  date: { type: 'text' },
});
export const EveningVersionEntity = versionEntity('evening');

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

export interface ShownRow {
  /** `unit-` or `instrument-` and its id. */
  panel: string;
  shown: string;
  updatedAt: string;
}

export const ShownEntity = new EntitySchema<ShownRow>({
  name: 'panel_shown',
  columns: {
    panel: { type: 'text', primary: true },
    shown: { type: 'text' },
    updatedAt: { type: 'text', name: 'updated_at' },
  },
});

/** A device that was let in. */
export interface DeviceRow {
  id: string;
  name: string;
  tokenHash: string;
  createdAt: string;
  seenAt: string;
}

export const DeviceEntity = new EntitySchema<DeviceRow>({
  name: 'device',
  columns: {
    id: { type: 'text', primary: true },
    name: { type: 'text' },
    tokenHash: { type: 'text', name: 'token_hash' },
    createdAt: { type: 'text', name: 'created_at' },
    seenAt: { type: 'text', name: 'seen_at' },
  },
});

/** A walk through a set. */
export interface WalkRow {
  id: string;
  eveningId: string;
  kind: string;
  /** What panels showed when it began, as JSON. */
  before: string;
  createdAt: string;
  endedAt: string | null;
}

export const WalkEntity = new EntitySchema<WalkRow>({
  name: 'walk',
  columns: {
    id: { type: 'text', primary: true },
    eveningId: { type: 'text', name: 'evening_id' },
    kind: { type: 'text' },
    before: { type: 'text' },
    createdAt: { type: 'text', name: 'created_at' },
    endedAt: { type: 'text', name: 'ended_at', nullable: true },
  },
});

export interface WalkMarkRow {
  walkId: string;
  key: string;
  /** As JSON. */
  mark: string;
}

export const WalkMarkEntity = new EntitySchema<WalkMarkRow>({
  name: 'walk_mark',
  columns: {
    walkId: { type: 'text', primary: true, name: 'walk_id' },
    key: { type: 'text', primary: true },
    mark: { type: 'text' },
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

export interface SoundRow {
  /** SHA-256 of its bytes. */
  id: string;
  seconds: number;
  bytes: Buffer;
  createdAt: string;
}

export const SoundEntity = new EntitySchema<SoundRow>({
  name: 'sound',
  columns: {
    id: { type: 'text', primary: true },
    seconds: { type: 'real' },
    bytes: { type: 'blob' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export interface PhotographRow {
  id: string;
  width: number;
  height: number;
  bytes: Buffer;
  createdAt: string;
}

/** A photograph of a panel: a JPEG under the checksum of its bytes. */
export const PhotographEntity = new EntitySchema<PhotographRow>({
  name: 'photograph',
  columns: {
    id: { type: 'text', primary: true },
    width: { type: 'integer' },
    height: { type: 'integer' },
    bytes: { type: 'blob' },
    createdAt: { type: 'text', name: 'created_at' },
  },
});

export const entities = [
  InstrumentEntity,
  InstrumentVersionEntity,
  PatchEntity,
  PatchVersionEntity,
  ProgressEntity,
  ShownEntity,
  UnitEntity,
  UnitVersionEntity,
  SessionEntity,
  SessionVersionEntity,
  EveningEntity,
  EveningVersionEntity,
  WalkEntity,
  WalkMarkEntity,
  DeviceEntity,
  TakeEntity,
  TakeChunkEntity,
  VersionNameEntity,
  PhotographEntity,
  SoundEntity,
];
