import { isSwitched } from '../instrument/switched';
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

interface Stand {
  song: string;
  setting: Setting | undefined;
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

/**
 * Controls that may stand within the ranges of several songs in a row. As long as what all of them allow is not empty the
 * control stays; then it is moved. No other choice moves it less often: a run can never be longer (greedy stabbing of
 * intervals; Kleinberg and Tardos, Algorithm Design, 2005, 4.1).
 */
export function compromisesOf(stands: readonly Stand[]): {
  runs: { at: number[]; setting: Compromise['setting'] }[];
} {
  const runs: { at: number[]; setting: Compromise['setting'] }[] = [];
  let at: number[] = [];
  let all: Range | undefined;
  let bests: number[] = [];
  const close = (): void => {
    const ranged = at.some((i) => stands[i]!.setting?.kind === 'range');
    if (at.length > 1 && all && ranged) runs.push({ at, setting: inside(all, bests) });
    [at, all, bests] = [[], undefined, []];
  };
  stands.forEach(({ setting }, i) => {
    const range = allowed(setting);
    if (range === undefined) return;
    if (range === null) return close();
    const both = all
      ? { from: Math.max(all.from, range.from), to: Math.min(all.to, range.to) }
      : range;
    if (both.from > both.to) close();
    all = at.length > 0 ? both : range;
    at.push(i);
    bests.push(setting?.kind === 'range' ? setting.best : range.from);
  });
  close();
  return { runs };
}

/** The middle of what each would like best, as far as all allow it. */
function inside({ from, to }: Range, bests: readonly number[]): Compromise['setting'] {
  if (from === to) return { kind: 'set', value: from };
  const mean = bests.reduce((sum, b) => sum + b, 0) / bests.length;
  return { kind: 'range', from, to, best: Math.min(to, Math.max(from, mean)) };
}

/** What stands on a panel in song after song, with compromises where they spare a movement. */
export function withCompromises(
  evening: Evening,
  panel: StagePanel,
  ways: Ways,
): { stands: Map<string, Standing>; compromises: Compromise[] } {
  const plays = evening.songs
    .filter((s) => s.kind !== 'reserve')
    .flatMap((song) => {
      const play = song.plays.find((p) => p.panel === panel.id);
      const found = play && ways.recorded(play, panel.id);
      return found ? [{ song: song.id, play, found }] : [];
    });
  const stands = new Map<string, Standing>(plays.map(({ song, play }) => [song, play]));
  const compromises: Compromise[] = [];
  const controls = plays[0]?.found.instrument.controls ?? [];
  for (const control of controls) {
    if (isSwitched(control)) continue;
    const all = plays.map(({ song, found }): Stand => ({
      song,
      setting: found.patch.settings[control.id],
    }));
    for (const { at, setting } of compromisesOf(all).runs) {
      const spares = at.some(
        (i, k) => k > 0 && mustMove(control, all[at[k - 1]!]!.setting, all[i]!.setting!),
      );
      if (!spares) continue;
      for (const i of at) {
        const song = all[i]!.song;
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
  return { stands, compromises };
}
