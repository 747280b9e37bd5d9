import type { Remote } from 'comlink';
import { remote } from './resting';
import { leaveWorker } from './start';

/** A worker that was ended before it had answered. */
export class Cancelled extends Error {
  constructor() {
    super('Cancelled.');
    this.name = 'Cancelled';
  }
}

/**
 * Asks a worker one thing and leaves it. Rejects with what the worker threw, with why it could not be loaded, or with
 * `Cancelled` as soon as the signal says so: a computation under way ends with its worker.
 */
export async function ask<T, R>(
  worker: Worker,
  question: (of: Remote<T>) => Promise<R>,
  signal?: AbortSignal,
): Promise<R> {
  const over = new AbortController();
  let answered = false;
  try {
    const answer = question(remote<T>(worker)).finally(() => (answered = true));
    return await Promise.race([answer, failed(worker, over), cancelled(signal, over)]);
  } finally {
    over.abort();
    if (answered) leaveWorker(worker);
    else worker.terminate();
  }
}

const failed = (worker: Worker, { signal }: AbortController): Promise<never> =>
  new Promise((_, reject) => {
    const tell = (event: ErrorEvent): void =>
      reject(new Error(event.message || 'The worker could not be loaded.'));
    worker.addEventListener('error', tell, { signal });
  });

const cancelled = (wish: AbortSignal | undefined, { signal }: AbortController): Promise<never> =>
  new Promise((_, reject) => {
    const cancel = (): void => reject(new Cancelled());
    if (wish?.aborted) cancel();
    wish?.addEventListener('abort', cancel, { signal });
  });
