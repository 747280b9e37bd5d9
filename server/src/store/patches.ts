import { checkPatch, type Patch, patchSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { type ListedPatch, PatchEntity, PatchVersionEntity } from '../db/entities';
import { DocumentStore } from './document-store';
import { invalid } from '../problem';
import { type InstrumentStore, standingOn } from './instruments';

/** Patches, listed without their contents. */
export class PatchStore extends DocumentStore<'patch', Patch, ListedPatch> {
  constructor(database: Database, instruments: InstrumentStore) {
    super(database, {
      name: 'patch',
      heads: PatchEntity,
      versions: PatchVersionEntity,
      parse: (source) => patchSchema.parse(source),
      listed: (patch) => ({
        instrumentId: patch.instrument,
        name: patch.name,
        song: patch.song,
        role: patch.role,
        about: patch.about,
        recorded: Object.keys(patch.settings).length,
      }),
      order: ['song', 'name'],
      searched: ['name', 'song', 'role', 'about'],
      fixed: { instrument: 'A patch stays on its instrument.' },
      check: async (patch) => {
        const faults = checkPatch(patch, await standingOn(instruments, patch));
        if (faults.length > 0) throw invalid(faults);
      },
    });
  }
}
