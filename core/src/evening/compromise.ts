import { panelOf } from '../instrument/panel-of';
import type { Control } from '../instrument/schema';
import { isSwitched } from '../instrument/switched';
import { soundingValue } from '../reading/format';
import type { Setting } from '../reading/setting';
import { mustMove } from '../rebuild/plan';
import type { Evening, StagePanel } from './schema';
import type { Standing, Ways } from './ways';

/** A control that stands so for several songs that nothing must be moved between them. */
export interface Compromise {
  panel: string;
  control: string;
  /** First and last song of those that it serves. */
  from: string;
  to: string;
  /** Where it stands: inside what every one of them allows. */
  setting: Extract<Setting, { kind: 'set' | 'range' }>;
}

/** A control in one song. */
interface Stand {
  song: string;
  setting: Setting | undefined;
  /** It stands there without being moved: the sound is loaded, or was shown before the evening. */
  given?: true;
}

interface Range {
  from: number;
  to: number;
}

/** What a song allows; null where only the ear can tell, undefined where anything will do. */
function allowed(setting: Setting | undefined): Range | null | undefined {
  if (!setting || setting.kind === 'any') return undefined;
  if (setting.kind === 'range') return { from: setting.from, to: setting.to };
  if (setting.kind === 'set' && typeof setting.value === 'number')
    return { from: setting.value, to: setting.value };
  return null;
}

/** Songs in a row for which a control stands at one place. */
export interface Run {
  at: number[];
  all: Range;
  /** The first of them found it there. */
  given: boolean;
  /** It was found by ear. */
  byEar?: true;
}

/** Ways of moving one control that are looked at. */
const MOST_WAYS = 24;

/**
 * The ways of moving a control through songs in a row, each as its runs: songs for which it stays at one place, inside what
 * all of them allow. No two runs beside each other could be one, so that nothing is moved for nothing. The first way moves it
 * the least often: its runs are as long as they can be (greedy stabbing of intervals).
 */
export function waysToStand(stands: readonly Stand[]): Run[][] {
  const cared = stands.flatMap(({ setting, given }, i) => {
    const range = allowed(setting);
    return range === undefined ? [] : [{ i, range, given: given === true }];
  });
  const found: Run[][] = [];
  const go = (at: number, runs: Run[]): void => {
    if (found.length >= MOST_WAYS) return;
    const one = cared[at];
    if (!one) {
      found.push(runs);
      return;
    }
    const { i, range, given } = one;
    const last = runs.at(-1);
    const rest = runs.slice(0, -1);
    // By ear it is found anew each time: nothing before is served by it, and after it only what leaves a choice.
    if (range === null)
      return go(at + 1, [
        ...runs,
        { at: [i], all: nearOf(stands[i]!.setting), given, byEar: true },
      ]);
    const serves = !last?.byEar || stands[i]!.setting?.kind === 'range';
    const both = last && !given && serves && meet(last.all, range);
    if (both) go(at + 1, [...rest, { ...last, at: [...last.at, i], all: both }]);
    const before = rest.at(-1);
    if (!couldBeOne(before, last)) go(at + 1, [...runs, { at: [i], all: range, given }]);
  };
  go(0, []);
  return found.filter((runs) => runs.length < 2 || !couldBeOne(runs.at(-2), runs.at(-1)));
}

/** Whether two runs beside each other part for nothing. */
const couldBeOne = (before: Run | undefined, last: Run | undefined): boolean =>
  !!before && !!last && !before.byEar && !last.byEar && !last.given && !!meet(before.all, last.all);

/** Near where something is that was found by ear. */
function nearOf(setting: Setting | undefined): Range {
  const near = setting?.kind === 'ear' && typeof setting.near === 'number' ? setting.near : -1;
  return { from: near, to: near };
}

const meet = (a: Range, b: Range): Range | undefined => {
  const both = { from: Math.max(a.from, b.from), to: Math.min(a.to, b.to) };
  return both.from > both.to + 1e-12 ? undefined : both;
};

/** Runs of several songs of which one at least leaves a choice, with where the control stands for them. */
export function compromisesIn(
  stands: readonly Stand[],
  runs: readonly Run[],
): { at: number[]; setting: Compromise['setting'] }[] {
  return runs.flatMap(({ at, all, given, byEar }) => {
    // Where it was found, it stays: nobody puts it in the middle.
    if (given || byEar) return [];
    const ranged = at.some((i) => stands[i]!.setting?.kind === 'range');
    if (at.length < 2 || !ranged) return [];
    const bests = at.map((i) => {
      const { setting } = stands[i]!;
      return setting?.kind === 'range' ? setting.best : all.from;
    });
    return [{ at, setting: inside(all, bests) }];
  });
}

/** The middle of what each would like best, as far as all allow it. */
function inside({ from, to }: Range, bests: readonly number[]): Compromise['setting'] {
  if (from === to) return { kind: 'set', value: from };
  const mean = bests.reduce((sum, b) => sum + b, 0) / bests.length;
  return { kind: 'range', from, to, best: Math.min(to, Math.max(from, mean)) };
}

/** What is chosen of the ways of moving a control, by panel and control; of all others the one that moves it the least. */
export type Chosen = ReadonlyMap<string, number>;
export const choiceKey = (panel: string, control: string): string => `${panel} ${control}`;

/** What stands on a panel in song after song, with compromises where they spare a movement. */
export function withCompromises(
  evening: Evening,
  panel: StagePanel,
  ways: Ways,
  loaded: (play: Standing) => boolean,
  chosen: Chosen = new Map(),
): {
  stands: Map<string, Standing>;
  compromises: Compromise[];
  /** Controls that can be moved in several ways, and in how many. */
  open: Map<string, number>;
} {
  const plays = evening.songs
    .filter((s) => s.kind !== 'reserve')
    .flatMap((song) => {
      const play = song.plays.find((p) => p.panel === panel.id);
      const found = play && ways.recorded(play, panel.id);
      return found ? [{ song: song.id, play, found, given: loaded(play) }] : [];
    });
  const stands = new Map<string, Standing>(plays.map(({ song, play }) => [song, play]));
  const compromises: Compromise[] = [];
  const open = new Map<string, number>();
  const first = plays[0];
  if (!first) return { stands, compromises, open };
  const face = panelOf(first.found.instrument, first.found.patch);
  for (const control of face.controls) {
    if (isSwitched(control)) continue;
    const shows = first.given ? undefined : ways.standsBefore(panel.id, face, control.id);
    const before: Stand = { song: '', setting: exactly(control, shows), given: true };
    const all = [
      before,
      ...plays.map(({ song, found, given }): Stand => {
        const setting = found.patch.settings[control.id];
        // What is loaded stands as it was stored, wherever in its range that was.
        if (given) return { song, setting: exactly(control, setting), given: true };
        return { song, setting };
      }),
    ];
    const some = waysToStand(all);
    const key = choiceKey(panel.id, control.id);
    if (some.length > 1) open.set(key, some.length);
    for (const { at, setting } of compromisesIn(all, some[chosen.get(key) ?? 0] ?? [])) {
      const spares = at.some(
        (i, k) => k > 0 && mustMove(control, all[at[k - 1]!]!.setting, all[i]!.setting!),
      );
      if (!spares && !chosen.has(key)) continue;
      for (const i of at) {
        const { song } = all[i]!;
        const stand = stands.get(song)!;
        stands.set(song, { ...stand, narrowed: { ...stand.narrowed, [control.id]: setting } });
      }
      compromises.push({
        panel: panel.id,
        control: control.id,
        from: all[at[0]!]!.song,
        to: all[at.at(-1)!]!.song,
        setting,
      });
    }
  }
  return { stands, compromises, open };
}

/** Where a control stands, as one place; undefined where that is not known exactly. */
function exactly(control: Control, setting: Setting | undefined): Setting | undefined {
  if (!setting || setting.kind === 'any' || setting.kind === 'ear') return undefined;
  return { kind: 'set', value: soundingValue(control, setting) };
}
