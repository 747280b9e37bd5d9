/** Nobody could be served: too many wait, or it was waited for too long. */
export class Busy extends Error {}

interface Waiting {
  begin: () => void;
  refuse: (why: Error) => void;
}

/**
 * Does one thing at a time. Who asks for much holds nobody else up: those who ask are served in turn, each by the order of
 * asking.
 */
export class FairQueue {
  /** Who waits for what; whoever is served next stands first. */
  private readonly lines = new Map<string, Waiting[]>();
  private busy = false;

  /**
   * @param most how many things one may have waiting
   * @param patience how long anything may wait, in ms
   */
  constructor(
    private readonly most: number,
    private readonly patience: number,
  ) {}

  /**
   * Does something when its turn comes.
   * @param who asks, under any name
   * @param gone nobody waits for it any more: it leaves the line
   * @throws Busy when it was not begun
   */
  async run<T>(who: string, act: () => Promise<T>, gone?: AbortSignal): Promise<T> {
    if (this.busy) await this.wait(who, gone);
    this.busy = true;
    try {
      return await act();
    } finally {
      this.busy = this.next();
    }
  }

  private wait(who: string, gone: AbortSignal | undefined): Promise<void> {
    const line = this.lines.get(who) ?? [];
    if (line.length >= this.most)
      throw new Busy(`${this.most} of your requests are waiting already`);
    return new Promise((done, fail) => {
      const leave = (): void => {
        clearTimeout(timer);
        gone?.removeEventListener('abort', gave);
        this.leave(who, waiting);
      };
      const waiting: Waiting = {
        begin: () => (leave(), done()),
        refuse: (why) => (leave(), fail(why)),
      };
      const gave = (): void => waiting.refuse(new Busy('nobody waits for it any more'));
      const timer = setTimeout(
        () => waiting.refuse(new Busy('others were served first, and it was not begun')),
        this.patience,
      );
      gone?.addEventListener('abort', gave);
      this.lines.set(who, [...line, waiting]);
    });
  }

  private leave(who: string, waiting: Waiting): void {
    const left = (this.lines.get(who) ?? []).filter((one) => one !== waiting);
    // Whoever was served goes to the end of the turn.
    this.lines.delete(who);
    if (left.length > 0) this.lines.set(who, left);
  }

  /** Begins what is next. @returns false when nothing waits */
  private next(): boolean {
    const first = this.lines.values().next().value;
    first?.[0]?.begin();
    return first !== undefined;
  }
}
