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

/** What is said of a memory instead of a place: somebody has made the panel stand as it shall, whatever was chosen. */
export const STANDS_AGAIN = 'stands';

/** Marks of what was done on a panel, for whichever song. */
const doneOn = (marks: Marks, panel: string): { song: string; step: string; mark: WalkMark }[] =>
  Object.entries(marks).flatMap(([key, mark]) => {
    const of = mark.value === 'done' ? workOfKey(key) : undefined;
    return of?.panel === panel ? [{ ...of, mark }] : [];
  });

/** The place of a panel's memory that was heard to be chosen last, unless something was done on the panel since. */
export function chosenOn(marks: Marks, panel: string): WalkMark | undefined {
  const chosen = marks[loadedKey(panel)];
  if (!chosen || doneOn(marks, panel).some(({ mark }) => mark.clock > chosen.clock))
    return undefined;
  return chosen;
}

/**
 * A place that was chosen on a panel and spoils what a song wants there: it has undone what was done for it, or what it was to be
 * made from. Movements made since do not mend that: they are what differed from what stood there, and a sound that is loaded may
 * differ in everything. None where the song wants that place, where a sound was loaded since, where it was chosen for the song before,
 * where something was done for a song before since, and where somebody said that it stands again.
 * @param at number of the song
 */
export function loadedOver(
  evening: Pick<Evening, 'songs'>,
  plan: Pick<EveningPlan, 'breaks'>,
  marks: Marks,
  at: number,
  panel: string,
): WalkMark | undefined {
  const chosen = marks[loadedKey(panel)];
  if (!chosen || chosen.value === STANDS_AGAIN) return undefined;
  if (chosen.value === placeOn(evening, plan, at, panel)) return undefined;
  const song = evening.songs[at]?.id;
  const done = doneOn(marks, panel);
  if (done.some((d) => d.step === 'load' && d.mark.clock > chosen.clock)) return undefined;
  if (done.some((d) => d.song === song && d.mark.clock < chosen.clock)) return chosen;
  if (done.some((d) => d.song !== song && d.mark.clock > chosen.clock)) return undefined;
  return chosen.value === placeOn(evening, plan, at - 1, panel) ? undefined : chosen;
}
