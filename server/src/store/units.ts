import { checkUnit, type Unit, unitSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { type ListedUnit, UnitEntity, UnitVersionEntity } from '../db/entities';
import { DocumentStore } from './document-store';
import { fittingAny, type InstrumentStore } from './instruments';

/** Units of instruments. */
export class UnitStore extends DocumentStore<'unit', Unit, ListedUnit> {
  constructor(database: Database, instruments: InstrumentStore) {
    super(database, {
      name: 'unit',
      heads: UnitEntity,
      versions: UnitVersionEntity,
      parse: (source) => unitSchema.parse(source),
      listed: (unit) => ({ instrumentId: unit.instrument, name: unit.name }),
      order: ['instrumentId', 'name'],
      fixed: { instrument: 'A unit stays what it is.' },
      check: (unit) => fittingAny(instruments, unit, checkUnit),
    });
  }
}
