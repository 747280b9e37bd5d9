import {
  controlLabel,
  type Instrument,
  type Patch,
  patchReadOn,
  translate,
  type Unit,
} from '@hurrel/core';
import { invalid } from '../problem';
import type { SheetContent } from '../sheet/content';
import { measuredOf } from './measured';
import type { Services } from './shared';

/**
 * The unit before which one stands, and how patches read there.
 *
 * @param asked its id, `printed` for one of which nothing was measured; absent: as recorded
 * @param patches on which units they were recorded is asked for
 */
export async function standingBefore(
  services: Services,
  asked: string | undefined,
  patches: readonly (Patch | undefined)[],
) {
  const unit = asked === undefined || asked === 'printed' ? undefined : asked;
  const there = unit === undefined ? undefined : (await services.units.get(unit)).unit;
  if (there && there.instrument !== patches[0]!.instrument) {
    throw invalid([{ pointer: '/query/unit', message: 'That unit is another instrument.' }]);
  }
  const units = {
    ...(await measuredOf(
      services,
      patches.flatMap((p) => p?.unit ?? []),
    )),
    ...(unit && there ? { [unit]: there } : {}),
  };
  const measured = (id: string | undefined): Pick<Unit, 'calibration'> =>
    units[id ?? ''] ?? { calibration: {} };
  return {
    unit: there,
    reads: (patch: Patch, face: Instrument): Patch => patchReadOn(units, asked, patch, face),
    /** Whose readings they are, and what is not reached; nothing where they are those that were recorded. */
    says: (patch: Patch, face: Instrument): Pick<SheetContent, 'readingsOf' | 'notReached'> => {
      if (asked === undefined || unit === patch.unit) return {};
      const wrong = translate(face, patch, measured(patch.unit), measured(unit)).filter(
        (t) => t.error !== '',
      );
      return {
        readingsOf: there ? there.name : 'any unit, as printed',
        notReached: wrong.map((t) => `${controlLabel(face, t.control)} ${t.to} (${t.error})`),
      };
    },
  };
}
