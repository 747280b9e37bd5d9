import { isSwitched } from '../instrument/switched';
import type { Instrument } from '../instrument/schema';
import { defaultTimes, type HandTimes } from '../rebuild/time';
import type { OpenWork } from './open-work';
import { type HandKind, type Marks } from './walk';
import type { Work } from './ways';

/** A movement that somebody made, and how long it took them. */
export interface Timed {
  person: string;
  kind: HandKind;
  seconds: number;
  at: string;
  /** The movement, as walks name it. */
  key: string;
  /** How often it did not stand as it should when it had been ticked. */
  missed?: number;
}

/** So many of the last movements of a kind are looked at. */
export const REMEMBERED = 15;
/** Below so many the stated default holds. */
export const ENOUGH = 3;
/** A movement that took longer was not one: somebody talked, or played. */
const LONGEST = 60;

/** Of which kind a step is; undefined for what is not learned: modules, boxes, sequencer entries. */
export function handKindOf(face: Instrument, step: Work): HandKind | undefined {
  if (step.kind === 'pull') return 'pull';
  if (step.kind === 'add' || step.kind === 'move') return 'cable';
  if (step.kind !== 'movement') return undefined;
  if (step.target !== undefined) return 'ear';
  const control = face.controls.find((c) => c.id === step.control);
  if (!control || control.route?.length) return undefined;
  return isSwitched(control) ? 'switch' : 'knob';
}

/** The movements whose time was taken, oldest first. */
export const timedIn = (walks: readonly Marks[]): Timed[] =>
  walks
    .flatMap((marks) => Object.entries(marks))
    .flatMap(([key, { person, kind, seconds, at, value, missed }]) =>
      value === 'done' && person !== undefined && kind && seconds !== undefined
        ? [{ key, person, kind, seconds, at, ...(missed ? { missed } : {}) }]
        : [],
    )
    .filter((t) => t.seconds <= LONGEST)
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));

/** The one in the middle, or between the two there. */
export const median = (sorted: readonly number[]): number => {
  const half = sorted.length / 2;
  return sorted.length % 2 === 1
    ? sorted[Math.floor(half)]!
    : (sorted[half - 1]! + sorted[half]!) / 2;
};

export interface LearnedTimes {
  times: HandTimes;
  /** How many movements each kind's time was learned from; a kind that is not there has the stated default. */
  from: Partial<Record<HandKind, number>>;
}

/**
 * Somebody's own times: of each kind the median of the last 15 movements, once there are three. A median, because one
 * movement that went wrong says nothing of the others.
 */
export function learnedTimes(
  timed: readonly Timed[],
  person: string,
  begins: HandTimes = defaultTimes,
): LearnedTimes {
  const times = { ...begins };
  const from: LearnedTimes['from'] = {};
  for (const kind of new Set(timed.map((t) => t.kind))) {
    const last = timed
      .filter((t) => t.person === person && t.kind === kind)
      .slice(-REMEMBERED)
      .map((t) => t.seconds);
    if (last.length < ENOUGH) continue;
    times[kind] = median([...last].sort((a, b) => a - b));
    from[kind] = last.length;
  }
  return { times, from };
}

/** How somebody did on a day: the median of their movements' times against the stated ones; 1 is as stated, less is quicker. */
export interface DayOfPractice {
  /** `2026-12-01` */
  day: string;
  ratio: number;
  movements: number;
}

/** Somebody's days of practice, the first first; kinds are made comparable by their stated times. */
export function practiceOf(timed: readonly Timed[], person: string): DayOfPractice[] {
  const days = new Map<string, number[]>();
  for (const { person: who, kind, seconds, at } of timed) {
    if (who !== person) continue;
    const day = at.slice(0, 10);
    days.set(day, [...(days.get(day) ?? []), seconds / defaultTimes[kind]]);
  }
  return [...days]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([day, ratios]) => ({
      day,
      ratio: median([...ratios].sort((a, b) => a - b)),
      movements: ratios.length,
    }));
}

/** A movement that took more than this many times what was planned was slow. */
export const SLOW = 1.5;

/** What took somebody longer than planned, the slowest first. */
export const slowOf = (
  work: readonly OpenWork[],
  marks: Marks,
): { work: OpenWork; seconds: number }[] =>
  work
    .flatMap((w) => {
      const seconds = marks[w.key]?.value === 'done' ? marks[w.key]?.seconds : undefined;
      return seconds !== undefined && seconds > SLOW * w.step.seconds ? [{ work: w, seconds }] : [];
    })
    .sort((a, b) => b.seconds / b.work.step.seconds - a.seconds / a.work.step.seconds);
