import { type Remote, wrap } from 'comlink';

/** Workers that rest at most: each holds the code that it has read. */
const MOST = 4;

/**
 * Workers that have nothing to do, by the kind of work that they did: the next who asks for that kind goes on with one whose
 * code is read and compiled, which answers twice as soon. The one that rested longest ends where there are too many.
 */
export class Resting<Kind extends string> {
  private readonly kinds = new WeakMap<Worker, Kind>();
  private readonly rested: Worker[] = [];

  constructor(
    private readonly begin: (kind: Kind) => Worker,
    private readonly most = MOST,
  ) {}

  /** One that rested, or a new one. */
  start(kind: Kind): Worker {
    const at = this.rested.findIndex((worker) => this.kinds.get(worker) === kind);
    return at < 0 ? this.another(kind) : this.rested.splice(at, 1)[0]!;
  }

  /** Takes back one that has answered all that it was asked; one that failed, or was begun elsewhere, ends. */
  rest(worker: Worker): void {
    if (!this.kinds.has(worker)) return worker.terminate();
    worker.onerror = null;
    this.rested.push(worker);
    if (this.rested.length > this.most) this.rested.shift()!.terminate();
  }

  private another(kind: Kind): Worker {
    const worker = this.begin(kind);
    this.kinds.set(worker, kind);
    // What could not be loaded, or threw where nobody waited for it, is asked nothing more.
    worker.addEventListener('error', () => this.forget(worker));
    return worker;
  }

  private forget(worker: Worker): void {
    this.kinds.delete(worker);
    const at = this.rested.indexOf(worker);
    if (at >= 0) this.rested.splice(at, 1)[0]!.terminate();
  }
}

/** Who talks to each worker: kept as long as it is, since a worker goes deaf when the last who talks to it is forgotten. */
const remotes = new WeakMap<Worker, Remote<unknown>>();

/** What a worker can be asked. */
export function remote<T>(worker: Worker): Remote<T> {
  const known = remotes.get(worker) ?? wrap<unknown>(worker);
  remotes.set(worker, known);
  return known as Remote<T>;
}
