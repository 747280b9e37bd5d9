import { patchSchema, schemaFaults, unitSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { invalid } from '../problem';
import type { Services } from '../routes/shared';
import { demoInstruments, demoPatches } from './library';
import { demoSession } from './session';
import { demoUnits } from './units';

type Stores = Pick<Services, 'instruments' | 'patches' | 'units' | 'sessions'>;

/** Fills an empty library with the demo data, all of it or nothing; one that holds an instrument already is left alone. */
export async function loadDemo(database: Pick<Database, 'write'>, stores: Stores): Promise<void> {
  if (await stores.instruments.isEmpty()) await database.write(() => fill(stores));
}

async function fill({ instruments, patches, units, sessions }: Stores): Promise<void> {
  for (const source of demoInstruments) await instruments.add(source);
  const ids = new Map<string, string>();
  for (const source of demoPatches) {
    const parsed = patchSchema.safeParse(source);
    if (!parsed.success) throw invalid(schemaFaults(parsed.error));
    const { id } = await patches.create(parsed.data, 'demo library');
    ids.set(parsed.data.name, id);
  }
  await sessions.create(demoSession((name) => ids.get(name)!));
  for (const source of demoUnits) await units.create(unitSchema.parse(source));
}
