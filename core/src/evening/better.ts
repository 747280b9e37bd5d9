import { type Cost, less, waysOfStoring } from './choose-stored';
import { leastWork } from './least-work';
import { type EveningPlan, planEvening } from './plan';
import { product } from './product';
import type { Evening, Song, SongPatch } from './schema';
import { storingOf } from './stored';
import { nameOf, type Ways } from './ways';

/** Free songs up to which every order is tried; above, songs are moved until none helps. */
export const TRIED = 7;

/** Evenings that are planned to find the best order, where every one is. */
const MOST_PLANS = 5040;
const factorial = (n: number): number => (n < 2 ? 1 : n * factorial(n - 1));

/** Most ways of sharing songs out among equal panels that are followed at once. */
const FOLLOWED = 600;

/** How much time an evening lacks, and then how much work it is: the less the better. */
const cost = ({ breaks, seconds }: EveningPlan): Cost => ({
  lacking: breaks.reduce((sum, b) => sum + b.over, 0),
  seconds,
});

export interface Better {
  evening: Evening;
  plan: EveningPlan;
  /** Every possibility was looked at: there is none that is better. */
  exact: boolean;
  /** Where not: seconds of work below which no order comes, as long as no setting serves two songs; and what this one takes so. */
  bound?: { least: number; takes: number };
}

/**
 * A better order of the songs, those that are fixed, encores and songs in reserve where they are: less time lacking in the breaks, then less work. All
 * orders are tried for up to 7 free songs; above, one song at a time is put elsewhere as long as that helps.
 * The pauses stay where they are: they belong to the evening, not to the songs.
 *
 * @param told seconds that are lacking in the best order so far; may throw to stop
 */
export function betterOrder(
  evening: Evening,
  ways: Ways,
  told: (lacking: number) => void = () => undefined,
): Better {
  const free = evening.songs.flatMap((s, i) => (s.fixed || s.kind !== 'song' ? [] : [i]));
  const every = free.length <= TRIED;
  const storings = waysOfStoring(storingOf(evening, ways).storing);
  // Where not every order is tried, orders are compared without compromises: a seventh of the time.
  const effort = !every
    ? 'plain'
    : storings * factorial(free.length) <= MOST_PLANS
      ? 'all'
      : 'stored';
  let exact = effort === 'all';
  let best: Better = { evening, plan: planEvening(evening, ways, effort), exact };
  const consider = (order: readonly number[]): boolean => {
    const next = ordered(evening, free, order);
    const plan = planEvening(next, ways, effort);
    exact &&= plan.handedSure && plan.keptSure;
    if (!less(cost(plan), cost(best.plan))) return false;
    best = { ...best, evening: next, plan };
    told(cost(plan).lacking);
    return true;
  };
  if (every) for (const order of permutations(free)) consider(order);
  if (effort === 'all') return { ...best, exact };
  let order = free;
  for (let helped = !every; helped;) {
    helped = false;
    for (let from = 0; from < order.length; from++) {
      for (let to = 0; to < order.length; to++) {
        if (from === to) continue;
        const moved = order.filter((_, k) => k !== from);
        moved.splice(to, 0, order[from]!);
        if (!consider(moved)) continue;
        order = moved;
        helped = true;
      }
    }
  }
  const [was, is] = [planEvening(evening, ways), planEvening(best.evening, ways)];
  const found = less(cost(is), cost(was))
    ? { evening: best.evening, plan: is }
    : { evening, plan: was };
  const takes = planEvening(found.evening, ways, 'plain').seconds;
  return { ...found, exact: false, bound: { least: leastWork(evening, ways), takes } };
}

/** The evening with other songs at the free places. */
function ordered(evening: Evening, free: readonly number[], order: readonly number[]): Evening {
  const songs = evening.songs.map((song, i): Song => {
    const k = free.indexOf(i);
    return k < 0 ? song : { ...evening.songs[order[k]!]!, pause: song.pause };
  });
  return { ...evening, songs };
}

function* permutations(of: readonly number[]): Generator<number[]> {
  if (of.length === 0) yield [];
  for (const [i, first] of of.entries())
    for (const rest of permutations(of.filter((_, k) => k !== i))) yield [first, ...rest];
}

/**
 * Which of several equal panels plays what: the least that is lacking in the breaks, then the least work over the evening.
 * Every way of sharing is tried up to 256 of them. Above, the least work is found by a dynamic programme over the songs, exact
 * as long as no more than 600 states of the panels are worth following; where time is lacking in what it finds, single songs
 * are put on other panels as long as that helps, and the result is not said to be the best.
 */
export function betterPanels(evening: Evening, ways: Ways): Better {
  let exact = true;
  let songs = evening.songs;
  const kinds = new Set(evening.panels.map((p) => p.instrument));
  const groups = [...kinds]
    .map((kind) => evening.panels.filter((p) => p.instrument === kind).map((p) => p.id))
    .filter((group) => group.length > 1);
  for (const group of groups) {
    const shared = shareOut(songs, group, ways);
    songs = shared.songs;
    exact &&= shared.exact;
  }
  const stores = storingOf(evening, ways).storing.length > 0;
  const planned = (of: readonly Song[]): Better => {
    const next = { ...evening, songs: [...of] };
    return { evening: next, plan: planEvening(next, ways, 'stored'), exact };
  };
  const found = sharePanels(evening, songs, groups, planned);
  if (!stores) return found;
  const [was, is] = [planEvening(evening, ways), planEvening(found.evening, ways)];
  const best = less(cost(is), cost(was))
    ? { ...found, plan: is }
    : { ...found, evening, plan: was };
  // Shared out otherwise, other sounds would have been stored.
  return { ...best, exact: false };
}

/** The best of the ways that are tried. */
function sharePanels(
  evening: Evening,
  songs: readonly Song[],
  groups: readonly (readonly string[])[],
  planned: (of: readonly Song[]) => Better,
): Better {
  const better = (a: Better, b: Better): Better => (less(cost(b.plan), cost(a.plan)) ? b : a);
  const printed = planned(evening.songs);
  const found = better(printed, planned(songs));
  const others = songs.map((song) => otherShares(song, groups));
  const all = others.reduce((count, some) => count * some.length, 1);
  if (all <= MOST_SHARES) {
    let best: Better = { ...found, exact: true };
    for (const way of product(others)) best = better(best, { ...planned(way), exact: true });
    return best;
  }
  const { kept, compromises } = found.plan;
  // What is loaded, or stands for two songs, the programme over the songs does not know of.
  const known = kept.length === 0 && compromises.length === 0;
  if (cost(found.plan).lacking === 0) return { ...found, exact: found.exact && known };
  let best: Better = { ...found, exact: false };
  for (let helped = true; helped;) {
    helped = false;
    others.forEach((some, i) => {
      for (const song of some) {
        const tried = better(best, {
          ...planned(best.evening.songs.map((s, k) => (k === i ? song : s))),
          exact: false,
        });
        helped ||= tried !== best;
        best = tried;
      }
    });
  }
  return best;
}

/** Ways of sharing out that are all tried. */
const MOST_SHARES = 256;

/** A song with its parts on other equal panels, in every way; locked parts stay. */
function otherShares(song: Song, groups: readonly (readonly string[])[]): Song[] {
  return groups.reduce<Song[]>(
    (made, group) =>
      made.flatMap((one) => {
        const plays = one.plays.filter((p) => group.includes(p.panel));
        return choices(group.length, plays.length)
          .filter((places) => plays.every((p, k) => !p.locked || group[places[k]!] === p.panel))
          .map((places) => {
            let k = 0;
            return {
              ...one,
              plays: one.plays.map((p) =>
                group.includes(p.panel) ? { ...p, panel: group[places[k++]!]! } : p,
              ),
            };
          });
      }),
    [song],
  );
}

interface State {
  /** What each panel of the group shows. */
  shows: (SongPatch | null)[];
  cost: number;
  /** Panels that the songs were put on, song by song. */
  chosen: string[][];
}

function shareOut(
  songs: readonly Song[],
  group: readonly string[],
  ways: Ways,
): { songs: Song[]; exact: boolean } {
  let exact = true;
  let states: State[] = [{ shows: group.map(() => null), cost: 0, chosen: [] }];
  for (const song of songs) {
    const plays = song.plays.filter((p) => group.includes(p.panel));
    const next = new Map<string, State>();
    for (const state of states) {
      for (const places of choices(group.length, plays.length)) {
        if (plays.some((p, k) => p.locked && group[places[k]!] !== p.panel)) continue;
        const shows = [...state.shows];
        let sum = state.cost;
        plays.forEach((play, k) => {
          const at = places[k]!;
          sum += ways.seconds(group[at]!, shows[at] ?? null, play);
          shows[at] = play;
        });
        const key = shows.map((s) => (s ? nameOf(s) : '')).join(' | ');
        const known = next.get(key);
        if (known && known.cost <= sum) continue;
        next.set(key, {
          shows,
          cost: sum,
          chosen: [...state.chosen, places.map((at) => group[at]!)],
        });
      }
    }
    states = [...next.values()].sort((a, b) => a.cost - b.cost);
    if (states.length > FOLLOWED) {
      states = states.slice(0, FOLLOWED);
      exact = false;
    }
  }
  const [best] = states;
  return {
    exact,
    songs: songs.map((song, i): Song => {
      let k = 0;
      const plays = song.plays.map((p) =>
        group.includes(p.panel) ? { ...p, panel: best!.chosen[i]![k++]! } : p,
      );
      return { ...song, plays };
    }),
  };
}

/** Every way of putting so many things on different places. */
function choices(places: number, things: number): number[][] {
  if (things === 0) return [[]];
  return choices(places, things - 1).flatMap((some) =>
    Array.from({ length: places }, (_, at) => at)
      .filter((at) => !some.includes(at))
      .map((at) => [...some, at]),
  );
}
