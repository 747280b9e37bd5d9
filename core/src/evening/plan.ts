import { chooseStored, type Goes, waysOfStoring } from './choose-stored';
import { chooseCompromises } from './choose-compromises';
import { type Chosen, type Compromise, withCompromises } from './compromise';
import { handOver, type Laid } from './hand-over';
import { helperOf, type Makers, makersOf } from './makers';
import { freeIn, moverOf } from './mover';
import type { Evening, SongPatch, StagePanel } from './schema';
import { type Job, type Portion, shareOut } from './share-out';
import {
  keptAs,
  type Kept,
  loadingSteps,
  secondsOf,
  type Sound,
  sparingMost,
  storingOf,
} from './stored';
import type { PanelState } from './panel-state';
import { nameOf, type Standing, type Ways, type Work, workOf } from './ways';

export type { Portion } from './share-out';

/** What is between two songs, or before the first. */
export interface Break {
  /** Song before which it is. */
  song: string;
  /** Seconds that there are. */
  length: number;
  portions: Portion[];
  /** What is moved while the song before is still played, because the break would not suffice. */
  during: Portion[];
  /** Seconds of each person's work in the break. */
  loads: Record<string, number>;
  /** Seconds by which the busiest has too little time; 0 when all fits. */
  over: number;
}

export interface EveningPlan {
  breaks: Break[];
  /** Seconds of work in all. */
  seconds: number;
  movements: number;
  /** Number of the break that lacks the most time; -1 when all fits. */
  worst: number;
  /** What is to be played and is not there. */
  gone: { song: string; panel: string }[];
  /** What is stored in memories before the evening. */
  kept: Kept[];
  /** Places that were named and that a panel does not have. */
  noPlaces: { panel: string; place: string }[];
  /** Where a control stands for several songs. */
  compromises: Compromise[];
  /** Changeovers that somebody else makes than usual, or makes a part of, because the breaks would not suffice. */
  handed: { song: string; panel: string; person: string; beside: boolean }[];
  /** No other way of sharing the changeovers out lacks less time. */
  handedSure: boolean;
  /** No other choice of what is stored lacks less time. */
  keptSure: boolean;
}

/** What has to be moved on a panel for a song. */
interface Changeover {
  panel: StagePanel;
  song: string;
  /** What shall stand there. */
  name: string;
  /** It is loaded. */
  loaded: boolean;
  /** Number of the song. */
  until: number;
  /** Number of the last song that is played on the panel before; -1 when there is none. */
  last: number;
  /** What stands there meanwhile; null before the first song on it. */
  stands: Standing | null;
  /** In the times of whoever makes it. */
  steps(person: string): Work[];
}

/**
 * An evening as it is played: what is stored before, what is moved on every panel from what it shows to what the next song
 * needs, who does it, and in which break. Work may be done in any break after the song that needed the panel before; what
 * changes nothing in that song also before it. Each person does what is due first: no other order of a person's work meets
 * more of the breaks (Jackson 1955: earliest due date first), up to the length of a single step. Only where the breaks of
 * somebody do not suffice they work during songs too, in which they have the hands for it; and where that does not suffice
 * either, others who may move a panel make a changeover on it.
 *
 * What is stored before is what leaves the least time lacking, then the least work.
 *
 * @param effort `plain`: without compromises, and never all ways of sharing changeovers out, a seventh of the time; `stored`: what
 * spares the most is stored, whether breaks lack time or not
 */
export function planEvening(
  evening: Evening,
  ways: Ways,
  effort: 'all' | 'stored' | 'plain' = 'all',
): EveningPlan {
  const { storing, unknown } = storingOf(evening, ways);
  const goes = (chosen: readonly (readonly Sound[])[]): PlanGoes => {
    const kept = storing.flatMap((one, i) => keptAs(evening, ways, one, chosen[i]!));
    return planChosen(evening, ways, kept, effort === 'plain', new Map());
  };
  const { best, sure } =
    effort === 'all'
      ? chooseStored(storing, goes, ({ panel }, { play }) => `${panel.id} ${nameOf(play)}`)
      : { best: goes(storing.map(sparingMost)), sure: waysOfStoring(storing) === 1 };
  // Where breaks lack time, controls that several songs could share are moved otherwise.
  const { lacking, pressing: _, ...plan } = planKept(evening, ways, best.kept, effort === 'plain');
  const settled = lacking < 1e-9 || best.open.size === 0 || waysOfStoring(storing) === 1;
  return { ...plan, noPlaces: unknown, keptSure: sure && settled };
}

/** A plan of which it was said what is stored. */
type PlanKept = Omit<EveningPlan, 'noPlaces' | 'keptSure'>;

/** The same with what it costs, and the controls that several songs could share in more ways than one. */
type PlanGoes = PlanKept & Goes & { open: ReadonlyMap<string, number> };

/** The same, when it is said what is stored. */
export function planKept(
  evening: Evening,
  ways: Ways,
  kept: Kept[],
  plain: boolean,
): PlanKept & Goes {
  const tried = new Map<string, PlanGoes>();
  const go = (chosen: Chosen): PlanGoes => {
    const key = JSON.stringify([...chosen].sort());
    const known = tried.get(key) ?? planChosen(evening, ways, kept, plain, chosen);
    tried.set(key, known);
    return known;
  };
  const { open: _, ...best } = plain ? go(new Map()) : chooseCompromises(go);
  return best;
}

/** The same, when it is said too how controls are moved that several songs could share. */
function planChosen(
  evening: Evening,
  ways: Ways,
  kept: Kept[],
  plain: boolean,
  chosen: Chosen,
): PlanGoes {
  const { changeovers, gone, compromises, open } = changeoversOf(
    evening,
    ways,
    kept,
    plain,
    chosen,
  );
  const makers = changeovers.map(({ panel, steps }) => makersOf(evening, panel, steps));
  const { laid, sure } = handOver(makers, (who) => lay(evening, ways, changeovers, who), !plain);
  const { breaks, seconds, movements } = laid;
  // Of a break whose length is a wish nothing is lacking.
  const worst = breaks.reduce(
    (w, b, i) => (!evening.songs[i]!.wished && b.over > (breaks[w]?.over ?? 0) + 1e-9 ? i : w),
    -1,
  );
  return {
    breaks,
    seconds,
    movements,
    worst,
    gone,
    kept,
    compromises,
    open,
    lacking: laid.lacking,
    pressing: new Set(
      laid.pressing.flatMap((i) => {
        const { panel, name, loaded } = changeovers[i]!;
        return loaded ? [] : [`${panel.id} ${name}`];
      }),
    ),
    handed: changeovers.flatMap(({ panel, song }, i): EveningPlan['handed'] => {
      const makers = laid.who[i]!;
      const person = helperOf(evening, panel, makers);
      if (person === undefined) return [];
      return [{ song, panel: panel.id, person, beside: makers.beside !== undefined }];
    }),
    // Of the places where a changeover can be parted only one is tried.
    handedSure: sure && (laid.lacking < 1e-9 || !makers.flat().some((m) => m.beside)),
  };
}

/** What has to be moved on every panel, song by song. */
function changeoversOf(
  evening: Evening,
  ways: Ways,
  kept: readonly Kept[],
  plain: boolean,
  chosen: Chosen = new Map(),
): Pick<EveningPlan, 'gone' | 'compromises'> & {
  changeovers: Changeover[];
  open: Map<string, number>;
} {
  const open = new Map<string, number>();
  const changeovers: Changeover[] = [];
  const gone: EveningPlan['gone'] = [];
  const compromises: Compromise[] = [];
  for (const panel of evening.panels) {
    const here = kept.filter((k) => k.panel === panel.id);
    // What is loaded stands as it was stored: only what is set by hand is put in the middle.
    const isLoaded = (play: Standing): boolean =>
      here.some((k) => nameOf(k.play) === nameOf({ ...play, narrowed: undefined }));
    const middle = plain ? null : withCompromises(evening, panel, ways, isLoaded, chosen);
    compromises.push(...(middle?.compromises ?? []));
    for (const [key, count] of middle?.open ?? []) open.set(key, count);
    const ready = here.at(-1)?.play;
    // What the panel shows, as song after song leaves it.
    let last: { play: Standing; at: number; shows: PanelState } | null = ready
      ? { play: ready, at: -1, shows: ways.stateOf(ready, panel.id)! }
      : null;
    evening.songs.forEach((song, at) => {
      const plays = song.kind === 'reserve' ? [] : song.plays;
      const recorded = plays.find((p) => p.panel === panel.id);
      if (!recorded) return;
      const play: Standing = middle?.stands.get(song.id) ?? recorded;
      const stood = last;
      const found = ways.recorded(play, panel.id);
      const from = stood?.shows ?? null;
      if (!ways.planFrom(panel.id, from, play) || !found) {
        gone.push({ song: song.id, panel: panel.id });
        return;
      }
      const same = stood && nameOf(stood.play) === nameOf(play);
      const place = here.find((k) => nameOf(k.play) === nameOf(recorded))?.place;
      const steps = (person: string): Work[] => {
        const way = workOf(ways.planFrom(panel.id, from, play, person)!);
        const loaded = place === undefined ? null : loadingSteps(way, place, found.patch.name);
        return loaded && secondsOf(loaded) < secondsOf(way) ? loaded : way;
      };
      if (!same)
        changeovers.push({
          panel,
          song: song.id,
          name: nameOf(recorded),
          loaded: place !== undefined,
          until: at,
          last: stood?.at ?? -1,
          stands: stood && stood.at >= 0 ? stood.play : null,
          steps,
        });
      const way = workOf(ways.planFrom(panel.id, from, play)!);
      const loads =
        place !== undefined &&
        secondsOf(loadingSteps(way, place, found.patch.name)) < secondsOf(way);
      last = { play, at, shows: ways.after(panel.id, from, play, loads)! };
    });
  }
  return { changeovers, gone, compromises, open };
}

interface LaidEvening extends Laid {
  breaks: Break[];
  movements: number;
  who: readonly Makers[];
}

/** The breaks, when it is said who makes which changeover. */
function lay(
  evening: Evening,
  ways: Ways,
  changeovers: readonly Changeover[],
  who: readonly Makers[],
): LaidEvening {
  const { songs } = evening;
  const jobs = changeovers.flatMap((change, i) =>
    jobsOf(evening, ways, changeovers, who, change, i),
  );
  const breaks = songs.map((song): Break => ({
    song: song.id,
    length: song.pause,
    portions: [],
    during: [],
    loads: {},
    over: 0,
  }));
  // A song that is not played has no break before it, and nothing is done while it lasts.
  const played = songs.flatMap(({ kind }, at) => (kind === 'reserve' ? [] : [at]));
  const inOrder = played.map((at) => songs[at]!);
  const tempoOf = (play: SongPatch): number => ways.recorded(play, play.panel)?.patch.tempo ?? 120;
  for (const person of new Set(jobs.map((j) => j.person))) {
    const own = jobs
      .filter((j) => j.person === person)
      .map((j) => ({ ...j, until: played.indexOf(j.until), last: played.indexOf(j.last) }));
    let shares = shareOut(own, inOrder, () => 0);
    if (shares.some((one, at) => one.used > inOrder[at]!.pause))
      shares = shareOut(own, inOrder, (song, needs) =>
        freeIn(evening, song, person, tempoOf, needs),
      );
    shares.forEach(({ portions, during, used }, k) => {
      const one = breaks[played[k]!]!;
      one.portions.push(...portions);
      one.during.push(...during);
      if (used > 0) one.loads[person] = used;
    });
  }
  for (const one of breaks)
    one.over = Math.max(0, ...Object.values(one.loads).map((s) => s - one.length));
  return {
    breaks,
    who,
    lacking: breaks.reduce((sum, b) => sum + b.over, 0),
    handed: changeovers.filter(({ panel }, i) => helperOf(evening, panel, who[i]!) !== undefined)
      .length,
    seconds: jobs.reduce((sum, j) => sum + secondsOf(j.steps), 0),
    movements: jobs.reduce((sum, j) => sum + j.steps.length, 0),
    pressing: changeovers.flatMap(({ until }, i) => {
      const one = breaks[until]!;
      const { person, beside } = who[i]!;
      const busy = [person, beside?.person ?? person].some((p) => (one.loads[p] ?? 0) > one.length);
      return busy ? [i] : [];
    }),
  };
}

/** The work of a changeover, of each who makes some of it. */
function jobsOf(
  evening: Evening,
  ways: Ways,
  changeovers: readonly Changeover[],
  who: readonly Makers[],
  change: Changeover,
  i: number,
): Job[] {
  const { person, beside } = who[i]!;
  const { panel, last, stands, steps: stepsOf } = change;
  // Two people move one panel in one break only where that was said: what could be done early would be done beside what is due.
  const before = changeovers.findIndex((c) => c.panel === panel && c.until === last);
  const other = before < 0 ? undefined : who[before];
  const early = !other || other.person === person;
  const unused = stands && early ? ways.changesNothing(stands, panel.id) : new Set<string>();
  const theirs = beside?.steps ?? new Set<string>();
  const own = stepsOf(person).filter((s) => !theirs.has(s.id));
  const jobs = jobsBy(evening, change, person, own, unused);
  if (!beside) return jobs;
  const taken = stepsOf(beside.person).filter((s) => theirs.has(s.id));
  return [...jobs, ...jobsBy(evening, change, beside.person, taken, unused)];
}

/** What somebody does of a changeover: what may be done while the song before is played stands by itself. */
function jobsBy(
  evening: Evening,
  { panel, song, until, last }: Changeover,
  person: string,
  steps: Work[],
  unused: ReadonlySet<string>,
): Job[] {
  const usual = person === moverOf(evening, panel);
  const base = {
    panel: panel.id,
    person,
    walk: usual ? 0 : (panel.also.find((a) => a.by === person)?.walk ?? 0),
    side: usual ? panel.side : undefined,
    song,
    until,
    last,
  };
  const free = steps.filter((s) => s.kind === 'movement' && unused.has(s.control));
  const others = steps.filter((s) => !free.includes(s));
  return [
    { ...base, free: true, steps: free },
    { ...base, free: false, steps: others },
  ].filter((j) => j.steps.length > 0);
}
