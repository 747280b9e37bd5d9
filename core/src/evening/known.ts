import type { PanelBefore } from '../rebuild/step';
import type { HandTimes } from '../rebuild/time';
import { moverOn } from './mover';
import { type Calibrations, readOn } from './read-on';
import type { Evening } from './schema';
import { type Recorded, Ways } from './ways';

/** What is known beside a set. */
export interface Known {
  /** By the patch's id; what is gone is left out. */
  library: Readonly<Record<string, Recorded>>;
  /** What panels show before the evening, by panel, as far as it is known. */
  before: Readonly<Record<string, PanelBefore>>;
  /** What movements take whom, by person; the stated defaults where nothing is. */
  times: Readonly<Record<string, HandTimes>>;
  /** Of the units that are its panels, and of those on which its patches were recorded. */
  units: Calibrations;
}

/** The ways between the sounds of a set. */
export function waysOf(evening: Evening, { library, before, times, units }: Known): Ways {
  const unitOf = (panel: string): string | undefined =>
    evening.panels.find((p) => p.id === panel)?.unit;
  return new Ways(
    (patch) => library[patch],
    (panel) => before[panel],
    (panel, person) => times[person ?? moverOn(evening, panel)],
    { unitOf, read: (panel, recorded) => readOn(units, unitOf(panel), recorded) },
  );
}
