import { type LearnedTimes, learnedTimes, type Timed } from '@hurrel/core';

/**
 * What movements take people, of those who have learned something.
 * @param until only what was done before, when that is said: a walk's plan stays as it was on every screen, whenever that is
 *   opened, though people grow quicker in it
 */
export const learnedBy = (
  people: readonly { id: string }[],
  timed: readonly Timed[],
  until = '',
): Record<string, LearnedTimes> => {
  const counted = until ? timed.filter((t) => t.at < until) : timed;
  return Object.fromEntries(
    people.flatMap(({ id }) => {
      const one = learnedTimes(counted, id);
      return Object.keys(one.from).length > 0 ? [[id, one]] : [];
    }),
  );
};
