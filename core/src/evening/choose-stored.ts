import { product } from './product';
import { choicesOf, countChoices, type Sound, sparingMost, type Storable } from './stored';

/** What an evening costs. */
export interface Cost {
  /** Seconds that breaks lack. */
  lacking: number;
  /** Seconds of work. */
  seconds: number;
}

/** How an evening goes when certain sounds are stored. */
export interface Goes extends Cost {
  /** Sounds that are set by hand in breaks which lack time, by panel and name, as `pressing` of `chooseStored` says them. */
  pressing: ReadonlySet<string>;
}

/** Choices that are all tried. */
const MOST_TRIED = 64;

/** Less time lacking, then less work. */
export const less = (a: Cost, b: Cost): boolean =>
  a.lacking < b.lacking - 1e-9 || (a.lacking < b.lacking + 1e-9 && a.seconds < b.seconds - 1e-9);

/** How many ways there are of storing what may be stored. */
export const waysOfStoring = (storing: readonly Storable[]): number =>
  storing.reduce((count, one) => count * countChoices(one), 1);

/**
 * Which sounds are stored: the least time lacking in the breaks, then the least work. All choices are tried up to 64 of them.
 * Above, those that spare the most are taken; where breaks then lack time, a sound that is set by hand in one of these is
 * stored instead of another, as long as that helps.
 *
 * @param go how the evening goes, `chosen` panel by panel
 * @param nameOf a sound on a panel, as `pressing` has it
 * @returns `sure` where no other choice lacks less
 */
export function chooseStored<T extends Goes>(
  storing: readonly Storable[],
  go: (chosen: readonly (readonly Sound[])[]) => T,
  nameOf: (storing: Storable, sound: Sound) => string,
): { best: T; sure: boolean } {
  let chosen: readonly (readonly Sound[])[] = storing.map(sparingMost);
  let best = go(chosen);
  const ways = waysOfStoring(storing);
  if (ways <= MOST_TRIED) {
    if (ways > 1)
      for (const way of product(storing.map(choicesOf))) {
        const tried = go(way);
        if (less(tried, best)) best = tried;
      }
    return { best, sure: true };
  }
  for (let helped = true; helped && best.lacking > 1e-9;) {
    helped = false;
    for (const [i, one] of storing.entries()) {
      const wanted = one.sounds.filter(
        (s) => best.pressing.has(nameOf(one, s)) && !chosen[i]!.includes(s),
      );
      for (const sound of wanted)
        for (const given of chosen[i]!) {
          const on = one.sounds.filter(
            (s) => s === sound || (s !== given && chosen[i]!.includes(s)),
          );
          const way = chosen.map((some, k) => (k === i ? on : some));
          const tried = go(way);
          if (!less(tried, best)) continue;
          [best, chosen, helped] = [tried, way, true];
          break;
        }
    }
  }
  return { best, sure: best.lacking < 1e-9 };
}
