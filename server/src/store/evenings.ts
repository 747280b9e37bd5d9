import { type Evening, eveningSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { EveningEntity, EveningVersionEntity, type ListedEvening } from '../db/entities';
import { DocumentStore } from './document-store';

/** Sets: evenings on stage. What a set names and is gone is told by its plan; it stops nobody from keeping it. */
export class EveningStore extends DocumentStore<'evening', Evening, ListedEvening> {
  constructor(database: Database) {
    super(database, {
      name: 'evening',
      heads: EveningEntity,
      versions: EveningVersionEntity,
      parse: (source) => eveningSchema.parse(source),
      listed: (evening) => ({ name: evening.name, date: evening.date ?? '' }),
      order: ['date', 'name'],
    });
  }
}
