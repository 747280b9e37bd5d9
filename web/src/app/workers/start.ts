import { Resting } from './resting';

/** Kinds of work that are done beside the page. */
export type JobName =
  | 'match'
  | 'sensitivity'
  | 'preview'
  | 'measure'
  | 'travel'
  | 'volts'
  | 'checkup'
  | 'run'
  | 'mix'
  | 'straighten'
  | 'evening'
  | 'stage';

const workers = new Resting<JobName>(
  (name) =>
    new Worker(new URL('../../worker/main.worker', import.meta.url), { type: 'module', name }),
);

/** A worker of its own for a kind of work. */
export const startWorker = (name: JobName): Worker => workers.start(name);

/** Leaves a worker that has answered all that it was asked: one that is still at work is for its asker to end. */
export const leaveWorker = (worker: Worker): void => workers.rest(worker);
