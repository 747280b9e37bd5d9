import type { Database } from '../db/database';
import type { EveningStore } from './evenings';
import type { InstrumentStore } from './instruments';
import type { PatchStore } from './patches';
import type { PhotographStore } from './photographs';
import type { SessionStore } from './sessions';
import type { SoundStore } from './sounds';
import type { TakeStore } from './takes';
import type { UnitStore } from './units';

/** The stores of documents, by kind. */
export const storesByKind = ({
  instruments,
  patches,
  units,
  sessions,
  evenings,
}: Pick<Stores, 'instruments' | 'patches' | 'units' | 'sessions' | 'evenings'>) => ({
  instrument: instruments,
  patch: patches,
  unit: units,
  session: sessions,
  evening: evenings,
});

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
