import { ApiError } from './client';

/** Ms until what was not answered is sent again. */
const AGAIN_MS = 4000;

/** It would be refused again: what it is of is gone, or it is not allowed. */
const isRefused = (trouble: unknown): boolean =>
  trouble instanceof ApiError &&
  trouble.status >= 400 &&
  trouble.status < 500 &&
  trouble.status !== 401;

/** Keeps what waits on this device. */
export interface Kept<T> {
  read(): Map<string, T>;
  write(waiting: ReadonlyMap<string, T>): void;
}

/**
 * What the server is told when it can be, of each thing the last: what it does not answer is sent again, what it refuses is
 * let go, and neither keeps back the others.
 */
export class Outbox<T> {
  private readonly waiting: Map<string, T>;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<boolean> = Promise.resolve(true);

  /** @param kept where what waits is kept when the page is closed; absent: it is lost then */
  constructor(
    private readonly send: (of: string, what: T) => Promise<unknown>,
    private readonly kept?: Kept<T>,
  ) {
    this.waiting = kept?.read() ?? new Map<string, T>();
    if (this.waiting.size > 0) this.soon(0);
  }

  /** What waits of a thing. */
  get(of: string): T | undefined {
    return this.waiting.get(of);
  }

  /** @param ms until it is sent, together with what comes meanwhile */
  put(of: string, what: T, ms = 0): void {
    this.waiting.set(of, what);
    this.kept?.write(this.waiting);
    this.soon(ms);
  }

  /** Sends at once what waits, and not again. */
  close(): void {
    clearTimeout(this.timer);
    void this.sendAll();
  }

  private soon(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(
      () => void this.sendAll().then((all) => all || this.soon(AGAIN_MS)),
      ms,
    );
  }

  /** One after the other: what is newer never arrives first. @returns whether nothing has to be sent again */
  private sendAll(): Promise<boolean> {
    this.sending = this.sending.then(() => this.sendEach());
    return this.sending;
  }

  private async sendEach(): Promise<boolean> {
    let all = true;
    for (const [of, what] of [...this.waiting]) {
      try {
        await this.send(of, what);
      } catch (trouble) {
        all &&= isRefused(trouble);
        if (!isRefused(trouble)) continue;
      }
      if (this.waiting.get(of) !== what) continue;
      this.waiting.delete(of);
      this.kept?.write(this.waiting);
    }
    return all;
  }
}
