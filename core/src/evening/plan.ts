import { type Compromise, withCompromises } from './compromise';
import { freeIn, moverOf } from './mover';
import type { Evening, Song, StagePanel } from './schema';
import { type Kept, keepSounds, loadingSteps, secondsOf } from './stored';
import { nameOf, type Standing, type Ways, type Work, workOf } from './ways';

/** A stretch of work on one panel that is done in one break. */
export interface Portion {
  panel: string;
  /** Song that it is for. */
  song: string;
  steps: Work[];
  /** Estimated. */
  seconds: number;
  /** It could wait, and is done now because there is time. */
  early: boolean;
}

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
}

interface Job {
  panel: string;
  mover: string;
  song: string;
  /** Number of the last song that is played on the panel before; -1 when there is none. */
  last: number;
  /** Break by whose end it must be done. */
  until: number;
  /** It changes nothing in what stands there: it may be done as long as that is played. */
  free: boolean;
  steps: Work[];
}

/**
 * An evening as it is played: what is stored before, what is moved on every panel from what it shows to what the next song
 * needs, who does it, and in which break. Work may be done in any break after the song that needed the panel before; what
 * changes nothing in that song also before it. Each person does what is due first: no other order of a person's work meets
 * more of the breaks (Jackson 1955: earliest due date first), up to the length of a single step. Only where the breaks of
 * somebody do not suffice they work during songs too, in which they have a hand for it.
 *
 * @param plain without compromises: a seventh of the time, and never less work
 */
export function planEvening(evening: Evening, ways: Ways, plain = false): EveningPlan {
  const { songs } = evening;
  const jobs: Job[] = [];
  const gone: EveningPlan['gone'] = [];
  const { kept, unknown } = keepSounds(evening, ways);
  const compromises: Compromise[] = [];
  for (const panel of evening.panels) {
    const here = kept.filter((k) => k.panel === panel.id);
    // What is loaded stands as it was stored: only what is set by hand is put in the middle.
    const middle = here.length === 0 && !plain ? withCompromises(evening, panel, ways) : null;
    compromises.push(...(middle?.compromises ?? []));
    const ready = here.at(-1)?.play;
    let last: { play: Standing; at: number } | null = ready ? { play: ready, at: -1 } : null;
    songs.forEach((song, at) => {
      const plays = song.kind === 'reserve' ? [] : song.plays;
      const recorded = plays.find((p) => p.panel === panel.id);
      if (!recorded) return;
      const play: Standing = middle?.stands.get(song.id) ?? recorded;
      const plan = ways.plan(panel.id, last?.play ?? null, play);
      const found = ways.recorded(play);
      if (!plan || !found) {
        gone.push({ song: song.id, panel: panel.id });
        return;
      }
      const same = last && nameOf(last.play) === nameOf(play);
      const place = here.find((k) => nameOf(k.play) === nameOf(play))?.place;
      const way = workOf(plan);
      const loaded = place === undefined ? null : loadingSteps(way, place, found.patch.name);
      const steps = loaded && secondsOf(loaded) < secondsOf(way) ? loaded : way;
      if (!same) jobs.push(...jobsOf(evening, panel, song, at, last, steps, ways));
      last = { play, at };
    });
  }
  const breaks = songs.map((song): Break => ({
    song: song.id,
    length: song.pause,
    portions: [],
    during: [],
    loads: {},
    over: 0,
  }));
  const tempoOf = (play: Standing): number => ways.recorded(play)?.patch.tempo ?? 120;
  for (const mover of new Set(jobs.map((j) => j.mover))) {
    const own = jobs.filter((j) => j.mover === mover);
    let shares = shareOut(own, songs, () => 0);
    if (shares.some((one, at) => one.used > songs[at]!.pause))
      shares = shareOut(own, songs, (song) => freeIn(evening, song, mover, tempoOf));
    shares.forEach(({ portions, during, used }, at) => {
      breaks[at]!.portions.push(...portions);
      breaks[at]!.during.push(...during);
      if (used > 0) breaks[at]!.loads[mover] = used;
    });
  }
  for (const one of breaks)
    one.over = Math.max(0, ...Object.values(one.loads).map((s) => s - one.length));
  const worst = breaks.reduce((w, b, i) => (b.over > (breaks[w]?.over ?? 0) + 1e-9 ? i : w), -1);
  return {
    breaks,
    seconds: jobs.reduce((sum, j) => sum + secondsOf(j.steps), 0),
    movements: jobs.reduce((sum, j) => sum + j.steps.length, 0),
    worst,
    gone,
    kept,
    noPlaces: unknown,
    compromises,
  };
}

/** The work on a panel for a song: what may be done while the song before is played stands by itself. */
function jobsOf(
  evening: Evening,
  panel: StagePanel,
  song: Song,
  at: number,
  last: { play: Standing; at: number } | null,
  steps: Work[],
  ways: Ways,
): Job[] {
  const base = {
    panel: panel.id,
    mover: moverOf(evening, panel),
    song: song.id,
    until: at,
    last: last?.at ?? -1,
    free: false,
  };
  if (!last || last.at < 0) return [{ ...base, steps }];
  const unused = ways.changesNothing(last.play);
  const free = steps.filter((s) => s.kind === 'movement' && unused.has(s.control));
  const others = steps.filter((s) => !free.includes(s));
  return [
    { ...base, free: true, steps: free },
    { ...base, steps: others },
  ].filter((j) => j.steps.length > 0);
}

interface Share {
  portions: Portion[];
  during: Portion[];
  /** Seconds of the break. */
  used: number;
}

/** Shares one person's work out over the breaks, and over the songs in which they have time, what is due first first. */
function shareOut(
  jobs: Job[],
  songs: readonly Song[],
  freeSeconds: (song: Song) => number,
): Share[] {
  const left = jobs.map((job) => ({ job, steps: [...job.steps] }));
  /**
   * What is done in a stretch before a song, the break or the song before.
   * @param played number of the song that is played meanwhile, or would be next
   * @param due what is due at its end is done, whether there is time or not
   */
  const work = (
    until: number,
    capacity: number,
    played: number,
    due: boolean,
  ): { portions: Portion[]; used: number } => {
    const portions: Portion[] = [];
    let used = 0;
    const here = left
      // What nobody hears while it is played, and panels that rest in it.
      .filter(({ job, steps }) => steps.length > 0 && job.last < played + (job.free ? 1 : 0))
      .sort((a, b) => a.job.until - b.job.until || a.job.last - b.job.last);
    for (const { job, steps } of here) {
      const must = due && job.until === until;
      const taken: Work[] = [];
      while (steps.length > 0) {
        const next = steps[0]!;
        if (!must && used + next.seconds > capacity) break;
        taken.push(next);
        steps.shift();
        used += next.seconds;
      }
      if (taken.length > 0) addPortion(portions, job, taken, job.until > until);
    }
    return { portions, used };
  };
  return songs.map((song, at): Share => {
    const before = songs[at - 1];
    const during = before ? work(at, freeSeconds(before), at - 1, false).portions : [];
    return { ...work(at, song.pause, at, true), during };
  });
}

function addPortion(portions: Portion[], job: Job, steps: Work[], early: boolean): void {
  const there = portions.find(
    (p) => p.panel === job.panel && p.song === job.song && p.early === early,
  );
  if (there) {
    there.steps.push(...steps);
    there.seconds += secondsOf(steps);
    return;
  }
  portions.push({ panel: job.panel, song: job.song, steps, seconds: secondsOf(steps), early });
}
