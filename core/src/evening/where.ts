/** What to look at next, or how many of the movements are done. */
export type Look<T> = { look: T } | { done: number };

/**
 * Where somebody stopped, in the fewest looks: of movements that were made in their order, the first so many are done, and
 * half of what is possible goes with every answer. `n` movements take at most ceil(log2(n + 1)) looks (binary search: no
 * other way of asking yes or no needs fewer in the worst case).
 *
 * @param steps in the order in which they are made
 * @param answers of those that were looked at, whether they stand where they shall
 */
export function nextLook<T>(steps: readonly T[], answers: ReadonlyMap<T, boolean>): Look<T> {
  let [least, most] = [0, steps.length];
  while (least < most) {
    const middle = Math.floor((least + most) / 2);
    const stands = answers.get(steps[middle]!);
    if (stands === undefined) return { look: steps[middle]! };
    if (stands) least = middle + 1;
    else most = middle;
  }
  return { done: least };
}
