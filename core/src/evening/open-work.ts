import type { Break, EveningPlan } from './plan';
import type { Evening } from './schema';
import { type Marks, workKey } from './walk';
import type { Work } from './ways';

/** A movement of a break as it stands in a walk. */
export interface OpenWork {
  key: string;
  /** Song that it is for. */
  song: string;
  panel: string;
  /** Who makes it. */
  person: string;
  step: Work;
  /** It could wait. */
  early: boolean;
  /** It is meant to be done while the song before is still played. */
  during: boolean;
  /** It was left open in a break before this one. */
  left: boolean;
  state: 'open' | 'done' | 'later' | 'wrong';
}

const stateOf = (marks: Marks, key: string): OpenWork['state'] => {
  const value = marks[key]?.value;
  return value === 'done' || value === 'later' || value === 'wrong' ? value : 'open';
};

/**
 * What there is to do in a break: first what was left open before and is not overtaken by a later song on the same panel,
 * then the break's own work in its order.
 *
 * @param at number of the break
 * @param person only what they move; absent: everybody's
 * @param since clock of the mark by which they came to this break: what was left and is done since then still belongs to it
 */
export function workOfBreak(
  evening: Evening,
  plan: EveningPlan,
  marks: Marks,
  at: number,
  person?: string,
  since = Infinity,
): OpenWork[] {
  const number = new Map(evening.songs.map((s, i) => [s.id, i]));
  const all = (one: Break, left: boolean): OpenWork[] =>
    [
      ...one.during.map((p) => ({ ...p, during: !left })),
      ...one.portions.map((p) => ({ ...p, during: false })),
    ].flatMap(({ panel, person, song, steps, early, during }) =>
      steps.map((step): OpenWork => {
        const key = workKey(song, panel, step.id);
        const state = stateOf(marks, key);
        return { key, song, panel, person, step, early, during, left, state };
      }),
    );
  const here = plan.breaks[at] ? all(plan.breaks[at], false) : [];
  const moved = new Set(here.map((w) => `${w.panel} ${w.step.id}`));
  const left = plan.breaks
    .slice(0, at)
    .flatMap((one) => all(one, true))
    .filter((w) => w.state !== 'done' || (marks[w.key]?.clock ?? 0) > since)
    .filter((w) => !moved.has(`${w.panel} ${w.step.id}`))
    // Of two songs that want the same thing moved, only the later one counts.
    .filter(
      (w, i, some) =>
        !some.some((other, k) => k > i && other.panel === w.panel && other.step.id === w.step.id),
    )
    .filter((w) => number.has(w.song));
  return [...left, ...here].filter((w) => person === undefined || w.person === person);
}

/**
 * What is still to be done, what was put off at the end.
 * @param first keys of what comes before all else, whatever way the hand has
 */
export function inTurn(all: readonly OpenWork[], first: ReadonlySet<string> = NONE): OpenWork[] {
  const open = all.filter((w) => w.state === 'open');
  return [
    ...open.filter((w) => first.has(w.key)),
    ...open.filter((w) => !first.has(w.key)),
    ...all.filter((w) => w.state === 'later' || w.state === 'wrong'),
  ];
}
const NONE: ReadonlySet<string> = new Set();

/** Seconds of what is still to be done. */
export const secondsLeft = (all: readonly OpenWork[]): number =>
  all.reduce((sum, w) => sum + (w.state === 'done' ? 0 : w.step.seconds), 0);
