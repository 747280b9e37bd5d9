import { Piscina } from 'piscina';
import { Problem } from '../problem';
import type { Given, Gives, JobName } from './jobs';

/** Does jobs beside the server's own thread, so that none holds anybody else up. */
export interface Work {
  /**
   * @param gone tells that nobody waits for it any more: it is ended then
   * @throws Problem 429 when too many wait, 422 when it takes too long
   */
  do<N extends JobName>(name: N, given: Given<N>, gone?: AbortSignal): Promise<Gives<N>>;
  close(): Promise<void>;
}

const WAITING = 64;
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
      maxQueue: WAITING,
      // A thread takes longer to begin than most jobs do.
      idleTimeout: IDLE_MS,
    });
  // A long rendering does not hold up what is soon done.
  const [long, short] = [pool(), pool()];
  return {
    async do(name, given, gone) {
      const { ms, says } = LIMITS[name];
      const late = AbortSignal.timeout(ms);
      const signal = gone ? AbortSignal.any([gone, late]) : late;
      try {
        return (await (name === 'render' ? long : short).run({ name, given }, { signal })) as never;
      } catch (error) {
        if (late.aborted) {
          throw new Problem(
            422,
            'Too much',
            `${says}: it was given up. Fewer modules or cables help.`,
          );
        }
        // Nobody reads this: it only is no fault of the server's.
        if (gone?.aborted) throw new Problem(408, 'Given up', 'Nobody waits for it any more.');
        if (error instanceof Error && /queue/i.test(error.message)) {
          throw new Problem(429, 'Busy', `${WAITING} are waiting already: try again shortly.`);
        }
        throw error;
      }
    },
    async close() {
      await Promise.all([long.destroy(), short.destroy()]);
    },
  };
}
