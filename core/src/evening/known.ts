import type { PanelBefore } from '../rebuild/step';
import type { HandTimes } from '../rebuild/time';
import { moverOn } from './mover';
import { type Calibrations, readOn } from './read-on';
import { UNKNOWN_PANEL } from './panel-state';
import type { Evening, StagePanel } from './schema';
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

/**
 * How a panel stands when the evening begins: as was seen, at its start as somebody has said, or nobody knows: then every
 * control that matters is gone through.
 */
export type BeginsAt = 'shown' | 'start' | 'unknown';

export function beginsAt(
  { panels }: Pick<Evening, 'panels'>,
  panel: string,
  before: Known['before'],
): BeginsAt {
  if (before[panel]) return 'shown';
  return panels.find((p) => p.id === panel)?.atStart === true ? 'start' : 'unknown';
}

/** Panels of a set that are played and that nobody has seen, by name: at their start as was said, and of which nothing is known. */
export function panelsNotSeen(
  evening: Evening,
  before: Known['before'],
): Record<Exclude<BeginsAt, 'shown'>, StagePanel[]> {
  const played = new Set(evening.songs.flatMap((s) => s.plays.map((p) => p.panel)));
  const all = evening.panels.filter((p) => played.has(p.id));
  const those = (how: BeginsAt): StagePanel[] =>
    all.filter((p) => beginsAt(evening, p.id, before) === how);
  return { start: those('start'), unknown: those('unknown') };
}

/** The ways between the sounds of a set. */
export function waysOf(evening: Evening, { library, before, times, units }: Known): Ways {
  const unitOf = (panel: string): string | undefined =>
    evening.panels.find((p) => p.id === panel)?.unit;
  return new Ways(
    (patch) => library[patch],
    (panel) =>
      before[panel] ?? (beginsAt(evening, panel, before) === 'unknown' ? UNKNOWN_PANEL : undefined),
    (panel, person) => times[person ?? moverOn(evening, panel)],
    { unitOf, read: (panel, recorded) => readOn(units, unitOf(panel), recorded) },
  );
}
