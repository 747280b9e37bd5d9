import type { EveningPlan } from './plan';
import { loadedKey, type Marks, type WalkMark, workOfKey } from './walk';
import type { Evening } from './schema';

/**
 * The place of a panel's memory from which what stands on it in a song is loaded; undefined where it is set by hand, or stands
 * there since before the evening.
 * @param at number of the song
 */
export function placeOn(
  { songs }: Pick<Evening, 'songs'>,
  plan: Pick<EveningPlan, 'breaks'>,
  at: number,
  panel: string,
): string | undefined {
  for (const { id, plays } of songs.slice(0, at + 1).toReversed()) {
    if (!plays.some((p) => p.panel === panel)) continue;
    const steps = plan.breaks
      .flatMap((b) => [...b.during, ...b.portions])
      .filter((p) => p.song === id && p.panel === panel)
      .flatMap((p) => p.steps);
    const load = steps.find((s) => s.kind === 'load');
    if (load?.kind === 'load') return load.place;
    if (steps.length > 0) return undefined;
  }
  return undefined;
}

/** The place of a panel's memory that was heard to be chosen last, unless something was done on the panel since. */
export function chosenOn(marks: Marks, panel: string): WalkMark | undefined {
  const chosen = marks[loadedKey(panel)];
  const since = Object.entries(marks).some(
    ([key, mark]) =>
      mark.value === 'done' && mark.clock > (chosen?.clock ?? 0) && workOfKey(key)?.panel === panel,
  );
  return since ? undefined : chosen;
}
