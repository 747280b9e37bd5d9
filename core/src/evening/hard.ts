import { learnedTimes, median, SLOW, type Timed } from './learned';

/** A movement of a set that is hard for somebody. */
export interface HardMovement {
  /** As walks name it. */
  key: string;
  person: string;
  /** What it took, the median of the last times, and what that person needs for its kind. */
  seconds: number;
  usual: number;
  /** How often in the last times it did not stand as it should when it had been ticked. */
  missed: number;
}

/** So many of the last times count: whoever has learned it is not reminded any more. */
export const LAST_TIMES = 3;

/**
 * The movements of a set that were slow or went wrong in its walks, over all days, the hardest first: how many times what is
 * usual they took, and one more for each time that they went wrong.
 * @param timed oldest first  @param person only theirs; absent: everybody's
 */
export function hardMovements(timed: readonly Timed[], person?: string): HardMovement[] {
  const usual = new Map(
    [...new Set(timed.map((t) => t.person))].map((p) => [p, learnedTimes(timed, p).times]),
  );
  const by = new Map<string, Timed[]>();
  for (const one of timed) {
    if (person !== undefined && one.person !== person) continue;
    const key = `${one.person} ${one.key}`;
    by.set(key, [...(by.get(key) ?? []), one]);
  }
  return [...by.values()]
    .map((all): HardMovement => {
      const last = all.slice(-LAST_TIMES);
      const { key, kind, person: who } = last[0]!;
      return {
        key,
        person: who,
        seconds: median(last.map((t) => t.seconds).sort((a, b) => a - b)),
        usual: usual.get(who)![kind],
        missed: last.reduce((sum, t) => sum + (t.missed ?? 0), 0),
      };
    })
    .filter((h) => h.missed > 0 || h.seconds > SLOW * h.usual)
    .sort((a, b) => hardness(b) - hardness(a));
}

const hardness = ({ seconds, usual, missed }: HardMovement): number => seconds / usual + missed;
