import { type Needs, needsOf } from './mover';
import type { Song } from './schema';
import type { Work } from './ways';

/** Work on a panel for a song, that one person does. */
export interface Job {
  panel: string;
  person: string;
  /** Seconds to get to the panel and back, each time that they go. */
  walk: number;
  /** The hand of theirs that reaches the panel while they play. */
  side: 'left' | 'right' | undefined;
  song: string;
  /** Number of the last song that is played on the panel before; -1 when there is none. */
  last: number;
  /** Break by whose end it must be done. */
  until: number;
  /** It changes nothing in what stands there: it may be done as long as that is played. */
  free: boolean;
  steps: Work[];
}

/** A stretch of work on one panel that one person does in one break. */
export interface Portion {
  panel: string;
  person: string;
  /** Song that it is for. */
  song: string;
  steps: Work[];
  /** Estimated, the way there and back included. */
  seconds: number;
  /** It could wait, and is done now because there is time. */
  early: boolean;
}

export interface Share {
  portions: Portion[];
  during: Portion[];
  /** Seconds of the break. */
  used: number;
}

/** Seconds of what was put into a stretch of time, by the seconds before its end within which it has to lie. */
type Laid = Map<number, number>;

/**
 * Whether more work can be laid into the stretch: what has to lie within so many seconds of its end is never more than
 * these seconds. One after the other, those with the most time first, all then lie where they must.
 */
function fits(laid: Laid, within: number, seconds: number): boolean {
  for (const end of new Set([within, ...laid.keys()])) {
    let sum = within <= end ? seconds : 0;
    for (const [other, more] of laid) if (other <= end) sum += more;
    if (sum > end) return false;
  }
  return true;
}

/**
 * Shares one person's work out over the breaks, and over the songs in which they have a hand for it, what is due first
 * first.
 * @param freeSeconds of a song, at its end, in which they have the hands that something needs
 */
export function shareOut(
  jobs: readonly Job[],
  songs: readonly Song[],
  freeSeconds: (song: Song, needs: Needs) => number,
): Share[] {
  const left = jobs.map((job) => ({ job, steps: [...job.steps] }));
  /**
   * What is done in a stretch before a song, the break or the song before.
   * @param within seconds at its end in which a step can be done
   * @param played number of the song that is played meanwhile, or would be next
   * @param due what is due at its end is done, whether there is time or not
   */
  const work = (
    until: number,
    within: (step: Work, job: Job) => number,
    played: number,
    due: boolean,
  ): { portions: Portion[]; used: number } => {
    const portions: Portion[] = [];
    const laid: Laid = new Map();
    const visited = new Set<string>();
    const here = left
      // What nobody hears while it is played, and panels that rest in it.
      .filter(({ job, steps }) => steps.length > 0 && job.last < played + (job.free ? 1 : 0))
      .sort((a, b) => a.job.until - b.job.until || a.job.last - b.job.last);
    for (const one of here) {
      const { job } = one;
      const must = due && job.until === until;
      const most = one.steps.reduce((top, s) => Math.max(top, within(s, job)), 0);
      const taken: Work[] = [];
      const others: Work[] = [];
      let full = false;
      for (const step of one.steps) {
        const time = within(step, job);
        const seconds = step.seconds + (visited.has(job.panel) ? 0 : job.walk);
        if (!must && (full || !fits(laid, time, seconds))) {
          // What wants more hands waits; what has as much time as any ends the stretch.
          full ||= time >= most;
          others.push(step);
          continue;
        }
        laid.set(time, (laid.get(time) ?? 0) + seconds);
        visited.add(job.panel);
        taken.push(step);
      }
      one.steps = others;
      if (taken.length > 0) addPortion(portions, job, taken, job.until > until);
    }
    const used = [...laid.values()].reduce((sum, seconds) => sum + seconds, 0);
    return { portions, used };
  };
  return songs.map((song, at): Share => {
    const before = songs[at - 1];
    const during = before
      ? work(at, (step, job) => freeSeconds(before, needsOf(step, job.side)), at - 1, false)
          .portions
      : [];
    return { ...work(at, () => song.pause, at, true), during };
  });
}

function addPortion(portions: Portion[], job: Job, steps: Work[], early: boolean): void {
  const seconds = steps.reduce((sum, s) => sum + s.seconds, 0);
  const there = portions.find(
    (p) => p.panel === job.panel && p.song === job.song && p.early === early,
  );
  if (there) {
    there.steps.push(...steps);
    there.seconds += seconds;
    return;
  }
  const went = portions.some((p) => p.panel === job.panel);
  portions.push({
    panel: job.panel,
    person: job.person,
    song: job.song,
    steps,
    seconds: seconds + (went ? 0 : job.walk),
    early,
  });
}
