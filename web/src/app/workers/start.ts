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

/** A worker of its own for a kind of work. */
export const startWorker = (name: JobName): Worker =>
  new Worker(new URL('../../worker/main.worker', import.meta.url), { type: 'module', name });
