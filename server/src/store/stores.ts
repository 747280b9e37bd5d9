import type { Database } from '../db/database';
import type { EveningStore } from './evenings';
import type { InstrumentStore } from './instruments';
import type { PatchStore } from './patches';
import type { PhotographStore } from './photographs';
import type { SessionStore } from './sessions';
import type { SoundStore } from './sounds';
import type { TakeStore } from './takes';
import type { UnitStore } from './units';

/** Everything that is kept. */
export interface Stores {
  database: Pick<
    Database,
    'file' | 'storage' | 'backup' | 'replaceBy' | 'replacedAt' | 'write' | 'shrink'
  >;
  instruments: InstrumentStore;
  patches: PatchStore;
  units: UnitStore;
  sessions: SessionStore;
  evenings: EveningStore;
  takes: TakeStore;
  photographs: PhotographStore;
  sounds: SoundStore;
}
