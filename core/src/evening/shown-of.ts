import { shownId } from '../rebuild/shown';
import type { Evening, StagePanel } from './schema';

const idOf = ({ instrument, unit }: StagePanel): string => shownId(instrument, unit);

/**
 * What is known of a panel of a set is kept under this; undefined where the set has another one of which nobody has said which of
 * the two it is: what one shows, or sends over MIDI, would be taken for the other's.
 */
export function shownOf({ panels }: Pick<Evening, 'panels'>, panel: string): string | undefined {
  const found = panels.find((p) => p.id === panel);
  if (!found) return undefined;
  const id = idOf(found);
  return panels.some((p) => p !== found && idOf(p) === id) ? undefined : id;
}

/** Panels that are not told apart, those of one instrument or unit together. */
export function panelsAlike({ panels }: Pick<Evening, 'panels'>): StagePanel[][] {
  const ids = [...new Set(panels.map(idOf))];
  return ids.map((id) => panels.filter((p) => idOf(p) === id)).filter((all) => all.length > 1);
}
