import { patchSchema, schemaFaults, unitSchema } from '@hurrel/core';
import type { Database } from '../db/database';
import { invalid } from '../problem';
import type { Services } from '../routes/shared';
import {
  demoDescribed,
  demoInstruments,
  demoPatches,
  demoPhotographs,
  demoSounds,
  type Described,
} from './library';
import { readInstrument } from '../store/instruments';
import { sumOf } from '../store/by-checksum';
import { demoEvenings } from './evening';
import { demoSession } from './session';
import { demoUnits } from './units';

type Stores = Pick<
  Services,
  'instruments' | 'patches' | 'units' | 'sessions' | 'evenings' | 'photographs' | 'sounds'
>;

/**
 * Fills an empty library with the demo data, all of it or nothing. In one that holds an instrument already, those that came
 * with Hurrel become as they come now; all else is left alone.
 */
export async function loadDemo(database: Pick<Database, 'write'>, stores: Stores): Promise<void> {
  if (await stores.instruments.isEmpty()) await database.write(() => fill(stores));
  else await renewReadyMade(stores.instruments);
}

async function renewReadyMade(instruments: Stores['instruments']): Promise<void> {
  for (const source of demoInstruments) await instruments.renew(readInstrument(source));
}

async function fill(stores: Stores): Promise<void> {
  const { instruments, patches, units, sessions, evenings, photographs, sounds } = stores;
  for (const bytes of demoPhotographs()) await photographs.take(sumOf(bytes), bytes);
  for (const bytes of demoSounds()) await sounds.add(bytes);
  for (const source of demoInstruments) await instruments.add(source);
  const ids = new Map<string, string>();
  for (const source of demoPatches) {
    const parsed = patchSchema.safeParse(source);
    if (!parsed.success) throw invalid(schemaFaults(parsed.error));
    const { id } = await patches.create(parsed.data, 'demo library');
    ids.set(parsed.data.name, id);
  }
  for (const one of demoDescribed) await describe(instruments, patches, one);
  await sessions.create(demoSession((name) => ids.get(name)!));
  for (const evening of demoEvenings((name) => ids.get(name)!)) await evenings.create(evening);
  for (const source of demoUnits) await units.create(unitSchema.parse(source));
}

/** The versions one after the other, and the patch as it was recorded on the first and carried over to the second. */
async function describe(
  instruments: Stores['instruments'],
  patches: Stores['patches'],
  { descriptions: [first, second], patch: { before, after } }: Described,
): Promise<void> {
  const { id } = await instruments.add(first);
  const recorded = patchSchema.parse({ ...before, edition: 1 });
  const made = await patches.create(recorded, 'demo library');
  const { version } = await instruments.save(id, 1, second);
  const carried = patchSchema.parse({ ...after, edition: version });
  await patches.save(made.id, 1, carried, `carried over to version ${version} of its instrument`);
}
