import { type Remote, wrap } from 'comlink';

/** A worker that was ended before it had answered. */
export class Cancelled extends Error {
  constructor() {
    super('Cancelled.');
    this.name = 'Cancelled';
  }
}

/**
 * Asks a worker one thing and ends it, answered or not. Rejects with what the worker threw, with why it could not be
 * loaded, or with `Cancelled` as soon as the signal says so: a computation under way ends with its worker.
 */
export async function ask<T, R>(
  worker: Worker,
  question: (of: Remote<T>) => Promise<R>,
  signal?: AbortSignal,
): Promise<R> {
  try {
    return await Promise.race([question(wrap<T>(worker)), failed(worker), cancelled(signal)]);
  } finally {
    worker.terminate();
  }
}

const failed = (worker: Worker): Promise<never> =>
  new Promise((_, reject) => {
    worker.addEventListener('error', (event) =>
      reject(new Error(event.message || 'The worker could not be loaded.')),
    );
  });

const cancelled = (signal?: AbortSignal): Promise<never> =>
  new Promise((_, reject) => {
    const cancel = (): void => reject(new Cancelled());
    if (signal?.aborted) cancel();
    signal?.addEventListener('abort', cancel, { once: true });
  });
