import { DestroyRef, inject, Injectable } from '@angular/core';
import { ask } from '../workers/ask';
import { startWorker } from '../workers/start';
import type { StageWorker, Telling, TellRequest } from './messages';

/** Most notes that are kept, a megabyte of sound each: those of an evening's breaks on one person's panels. */
const MOST_KEPT = 60;

/**
 * The notes that tell most, each worked out and rendered once: those of the breaks to come while there is time, one after the other, so
 * that nobody waits for them when a break is over.
 */
@Injectable()
export class Tellings {
  /** A worker of its own for each note. */
  protected start = (): Worker => startWorker('stage');
  private readonly known = new Map<string, Promise<Telling>>();
  private readonly stop = new AbortController();
  /** What is to come, the next first. */
  private coming: readonly TellRequest[] = [];
  private busy = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop.abort());
  }

  /** The note that tells most; at once where it was worked out before. */
  tell(request: TellRequest): Promise<Telling> {
    const key = keyOf(request);
    const there = this.known.get(key);
    if (there) return there;
    if (this.known.size >= MOST_KEPT) this.known.clear();
    const made = ask<StageWorker, Telling>(
      this.start(),
      (of) => of.tell(request),
      this.stop.signal,
    );
    this.known.set(key, made);
    // What could not be worked out is tried again when it is asked for.
    made.catch(() => this.known.delete(key));
    return made;
  }

  /** Works out what will be asked for, instead of what was to come before. */
  ahead(coming: readonly TellRequest[]): void {
    this.coming = coming;
    if (!this.busy) void this.goOn();
  }

  private async goOn(): Promise<void> {
    this.busy = true;
    for (;;) {
      const next = this.coming.find((request) => !this.known.has(keyOf(request)));
      if (!next || this.stop.signal.aborted) break;
      // One that fails is left out: it is told when it is asked for.
      await this.tell(next).catch(() => (this.coming = this.coming.filter((r) => r !== next)));
    }
    this.busy = false;
  }
}

const keyOf = ({ face, patch, steps }: TellRequest): string =>
  JSON.stringify([face.id, patch, steps]);
