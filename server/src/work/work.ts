import { Piscina } from 'piscina';
import { Problem } from '../problem';
import { Busy, FairQueue } from './fair-queue';
import type { Given, Gives, JobName } from './jobs';

/** Who asks for a job, and for how long. */
export interface Asked {
  /** Any name: those who ask are served in turn. */
  who: string;
  /** Tells that nobody waits for it any more: it is ended then. */
  gone: AbortSignal;
}

/** Does jobs beside the server's own thread, so that none holds anybody else up. */
export interface Work {
  /**
   * @throws Problem 429 when it only waited, 422 when it takes too long once it is begun
   */
  do<N extends JobName>(name: N, given: Given<N>, asked?: Asked): Promise<Gives<N>>;
  close(): Promise<void>;
}

/** How much one device may have waiting, and how long anything waits before it is told so, in ms. */
const WAITING = 64;
const PATIENCE_MS = 60_000;
/** After how many seconds it is worth asking again. */
const AGAIN_S = 5;
/** How long a thread without work is kept. */
const IDLE_MS = 300_000;

/** How long each may take, in ms, and what is said of one that takes longer. */
const LIMITS: Record<JobName, { ms: number; says: string }> = {
  render: { ms: 300_000, says: 'The sound takes longer than five minutes to render' },
  check: { ms: 15_000, says: 'The patch takes longer than 15 s to examine' },
  rebuild: { ms: 15_000, says: 'The way to this patch takes longer than 15 s to plan' },
  sheet: { ms: 20_000, says: 'The sheet takes longer than 20 s to draw' },
  booklet: { ms: 60_000, says: 'The booklet took longer than a minute: print fewer songs.' },
};

/** @param worker file URL of the built worker */
export function createWork(worker: URL): Work {
  const pool = () =>
    new Piscina({
      filename: worker.href,
      minThreads: 0,
      maxThreads: 1,
      // A thread takes longer to begin than most jobs do.
      idleTimeout: IDLE_MS,
    });
  // A long rendering does not hold up what is soon done.
  const [long, short] = [pool(), pool()];
  const [longLine, shortLine] = [
    new FairQueue(WAITING, PATIENCE_MS),
    new FairQueue(WAITING, PATIENCE_MS),
  ];
  return {
    async do(name, given, { who, gone } = { who: '', gone: new AbortController().signal }) {
      const { ms, says } = LIMITS[name];
      const [threads, line] = name === 'render' ? [long, longLine] : [short, shortLine];
      let late: AbortSignal | undefined;
      try {
        const begun = async () => {
          // Waiting is no work: the clock begins here.
          late = AbortSignal.timeout(ms);
          const signal = AbortSignal.any([gone, late]);
          return (await threads.run({ name, given }, { signal })) as never;
        };
        return await line.run(who, begun, gone);
      } catch (error) {
        if (late?.aborted) {
          throw new Problem(
            422,
            'Too much',
            `${says}: it was given up. Fewer modules or cables help.`,
          );
        }
        // Nobody reads this: it only is no fault of the server's.
        if (gone.aborted) throw new Problem(408, 'Given up', 'Nobody waits for it any more.');
        if (error instanceof Busy) {
          throw new Problem(
            429,
            'Busy',
            `The server is busy: ${error.message}. Try again shortly.`,
            [],
            {
              retryAfter: AGAIN_S,
            },
          );
        }
        throw error;
      }
    },
    async close() {
      await Promise.all([long.destroy(), short.destroy()]);
    },
  };
}
