import type { Unit } from '@hurrel/core';
import { Problem } from '../problem';
import type { Services } from './shared';

/** Units by their ids, for what was measured of them; what is gone is left out. */
export async function measuredOf(
  services: Services,
  ids: Iterable<string>,
): Promise<Record<string, Unit>> {
  const units: Record<string, Unit> = {};
  for (const id of new Set(ids)) {
    try {
      units[id] = (await services.units.get(id)).unit;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }
  return units;
}
