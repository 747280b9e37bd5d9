import type { Evening, Song, SongPatch, StagePanel } from './schema';
import { nameOf, type Ways, type Work, workOf } from './ways';

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
  /** Seconds of each person's work. */
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
}

/** Whoever moves a panel. */
export const moverOf = ({ people }: Evening, panel: StagePanel | undefined): string =>
  panel?.by ?? people[0]?.id ?? '';

interface Job {
  panel: string;
  mover: string;
  song: string;
  /** First break in which it may be done, and the break by whose end it must be. */
  from: number;
  until: number;
  steps: Work[];
}

/**
 * An evening as it is played: what is moved on every panel from what it shows to what the next song needs, who does it, and in
 * which break. Work may be done in any break after the song that needed the panel before; what changes nothing in that song
 * also before it. Each person does what is due first: no other order of a person's work meets more of the breaks (Jackson
 * 1955: earliest due date first), up to the length of a single step.
 */
export function planEvening(evening: Evening, ways: Ways): EveningPlan {
  const { songs } = evening;
  const jobs: Job[] = [];
  const gone: EveningPlan['gone'] = [];
  for (const panel of evening.panels) {
    let last: { play: SongPatch; at: number } | null = null;
    songs.forEach((song, at) => {
      const play = song.plays.find((p) => p.panel === panel.id);
      if (!play) return;
      const plan = ways.plan(panel.id, last?.play ?? null, play);
      if (!plan || !ways.recorded(play)) {
        gone.push({ song: song.id, panel: panel.id });
        return;
      }
      const same = last && nameOf(last.play) === nameOf(play);
      if (!same) jobs.push(...jobsOf(evening, panel, song, at, last, workOf(plan), ways));
      last = { play, at };
    });
  }
  const breaks = songs.map((song): Break => ({
    song: song.id,
    length: song.pause,
    portions: [],
    loads: {},
    over: 0,
  }));
  for (const mover of new Set(jobs.map((j) => j.mover)))
    share(
      jobs.filter((j) => j.mover === mover),
      breaks,
      mover,
    );
  for (const one of breaks)
    one.over = Math.max(0, ...Object.values(one.loads).map((s) => s - one.length));
  const worst = breaks.reduce((w, b, i) => (b.over > (breaks[w]?.over ?? 0) + 1e-9 ? i : w), -1);
  return {
    breaks,
    seconds: jobs.reduce((sum, j) => sum + secondsOf(j.steps), 0),
    movements: jobs.reduce((sum, j) => sum + j.steps.length, 0),
    worst,
    gone,
  };
}

/** The work on a panel for a song: what may be done while the song before is played stands by itself. */
function jobsOf(
  evening: Evening,
  panel: StagePanel,
  song: Song,
  at: number,
  last: { play: SongPatch; at: number } | null,
  steps: Work[],
  ways: Ways,
): Job[] {
  const base = { panel: panel.id, mover: moverOf(evening, panel), song: song.id, until: at };
  if (!last) return [{ ...base, from: 0, steps }];
  const free = ways.changesNothing(last.play);
  const early = steps.filter((s) => s.kind === 'movement' && free.has(s.control));
  const others = steps.filter((s) => !early.includes(s));
  return [
    { ...base, from: last.at, steps: early },
    { ...base, from: last.at + 1, steps: others },
  ].filter((j) => j.steps.length > 0);
}

const secondsOf = (steps: readonly Work[]): number => steps.reduce((sum, s) => sum + s.seconds, 0);

/** Shares a person's work out over the breaks, what is due first first. */
function share(jobs: Job[], breaks: Break[], mover: string): void {
  const left = jobs.map((job) => ({ job, steps: [...job.steps] }));
  breaks.forEach((one, at) => {
    let used = 0;
    const due = left
      .filter(({ job, steps }) => job.from <= at && steps.length > 0)
      .sort((a, b) => a.job.until - b.job.until || a.job.from - b.job.from);
    for (const { job, steps } of due) {
      const taken: Work[] = [];
      while (steps.length > 0) {
        const next = steps[0]!;
        // What is due now is done now, whether there is time or not.
        if (job.until > at && used + next.seconds > one.length) break;
        taken.push(next);
        steps.shift();
        used += next.seconds;
      }
      if (taken.length === 0) continue;
      const early = job.until > at;
      const there = one.portions.find(
        (p) => p.panel === job.panel && p.song === job.song && p.early === early,
      );
      if (there) {
        there.steps.push(...taken);
        there.seconds += secondsOf(taken);
      } else
        one.portions.push({
          panel: job.panel,
          song: job.song,
          steps: taken,
          seconds: secondsOf(taken),
          early,
        });
    }
    if (used > 0) one.loads[mover] = used;
  });
}
