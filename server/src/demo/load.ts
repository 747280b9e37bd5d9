import { patchSchema, unitSchema } from '@hurrel/core';
import { invalid, zodErrors } from '../problem';
import type { Services } from '../routes/shared';
import { demoInstruments, demoPatches } from './library';
import { demoSession } from './session';
import { demoUnits } from './units';

/** Fills an empty library with the demo data; one that holds an instrument already is left alone. */
export async function loadDemo({
  instruments,
  patches,
  units,
  sessions,
}: Pick<Services, 'instruments' | 'patches' | 'units' | 'sessions'>): Promise<void> {
  const present = await instruments.list();
  if (present.length > 0) return;
  for (const source of demoInstruments) await instruments.add(source);
  const ids = new Map<string, string>();
  for (const source of demoPatches) {
    const parsed = patchSchema.safeParse(source);
    if (!parsed.success) throw invalid(zodErrors(parsed.error));
    const { id } = await patches.create(parsed.data, 'demo library');
    ids.set(parsed.data.name, id);
  }
  await sessions.create(demoSession((name) => ids.get(name)!));
  for (const source of demoUnits) await units.create(unitSchema.parse(source));
}
