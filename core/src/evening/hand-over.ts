import { product } from './product';

/** How an evening goes when certain people make certain changeovers. */
export interface Laid {
  /** Seconds that breaks lack. */
  lacking: number;
  /** Changeovers that somebody else makes than usual. */
  handed: number;
  /** Seconds of work. */
  seconds: number;
  /** Numbers of the changeovers that are due in breaks which lack time, for whoever lacks it. */
  pressing: readonly number[];
}

/** Ways of sharing changeovers out that are all tried. */
const MOST_TRIED = 256;

const better = (a: Laid, b: Laid): boolean => {
  if (Math.abs(a.lacking - b.lacking) > 1e-9) return a.lacking < b.lacking;
  if (a.handed !== b.handed) return a.handed < b.handed;
  return a.seconds < b.seconds - 1e-9;
};

/**
 * Who makes which changeover, of those who may: the least time lacking in the breaks, then as few as possible by somebody
 * else than usual, then the least work. All ways are tried up to 256 of them; above, changeovers of breaks that lack time are
 * given away one by one, the first that helps to whoever helps most.
 *
 * @param options of each changeover, one at least, that by whoever makes it usually first
 * @param thorough false: never all ways
 * @returns `sure` where no other way lacks less
 */
export function handOver<Way, T extends Laid>(
  options: readonly (readonly Way[])[],
  lay: (who: readonly Way[]) => T,
  thorough: boolean,
): { laid: T; sure: boolean } {
  let who = options.map((some) => some[0] as Way);
  let best = lay(who);
  if (best.lacking < 1e-9 || options.every((some) => some.length < 2))
    return { laid: best, sure: true };
  const ways = options.reduce((count, some) => count * some.length, 1);
  if (thorough && ways <= MOST_TRIED) {
    for (const way of product(options)) {
      const tried = lay(way);
      if (better(tried, best)) best = tried;
    }
    return { laid: best, sure: true };
  }
  for (let helped = true; helped && best.lacking > 1e-9;) {
    helped = false;
    let found = who;
    for (const i of best.pressing) {
      for (const other of options[i]!) {
        if (other === who[i]) continue;
        const way = who.map((one, k) => (k === i ? other : one));
        const tried = lay(way);
        if (!better(tried, best)) continue;
        best = tried;
        found = way;
        helped = true;
      }
      // What is pressing was said of another way.
      if (helped) break;
    }
    who = found;
  }
  return { laid: best, sure: best.lacking < 1e-9 };
}
