import { less, type Goes } from './choose-stored';
import type { Chosen } from './compromise';
import { product } from './product';

/** Choices that are all tried; above, one control after the other as long as that helps. */
const MOST_TRIED = 256;
/** Plans that are looked at while one control after the other is tried. */
const MOST_PLANS = 400;

/**
 * How controls are moved that several songs could share: the least time lacking in the breaks, then the least work. Where
 * nothing lacks, each is moved as seldom as it can be.
 * @param go how the evening goes with a choice, and which controls leave one
 */
export function chooseCompromises<T extends Goes & { open: ReadonlyMap<string, number> }>(
  go: (chosen: Chosen) => T,
): T {
  let chosen: Chosen = new Map();
  let best = go(chosen);
  const open = [...best.open];
  if (best.lacking < 1e-9 || open.length === 0) return best;
  const ways = open.reduce((count, [, n]) => count * n, 1);
  if (ways <= MOST_TRIED) {
    const all = product(
      open.map(([key, n]) => Array.from({ length: n }, (_, i) => [key, i] as const)),
    );
    for (const way of all) {
      const tried = go(new Map(way.filter(([, i]) => i > 0)));
      if (less(tried, best)) best = tried;
    }
    return best;
  }
  let plans = 0;
  for (let helped = true; helped && best.lacking > 1e-9;) {
    helped = false;
    for (const [key, n] of open)
      for (let i = 0; i < n && plans < MOST_PLANS; i++, plans++) {
        const way = new Map(chosen).set(key, i);
        const tried = go(way);
        if (!less(tried, best)) continue;
        [best, chosen, helped] = [tried, way, true];
      }
  }
  return best;
}
