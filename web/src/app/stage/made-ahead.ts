import { DestroyRef, inject, Injectable } from '@angular/core';
import type { Remote } from 'comlink';
import { ask } from '../workers/ask';
import { startWorker } from '../workers/start';
import type { Coming, Sound, SoundRequest, StageWorker, Telling, TellRequest } from './messages';

/** Most sounds that are kept, a megabyte each: those of an evening's breaks on one person's panels. */
const MOST_KEPT = 60;
/** Ms in which no hand moves before the next of what is to come is begun: both cores are for what a hand waits for. */
const QUIET_MS = 400;

/**
 * The notes that tell most, and keys as they sound where one stops to listen, each worked out and rendered once: those of the breaks
 * to come while there is time, one after the other, so that nobody waits for them.
 */
@Injectable()
export class MadeAhead {
  /** A worker of its own for each. */
  protected start = (): Worker => startWorker('stage');
  private readonly known = new Map<string, Promise<unknown>>();
  private readonly stop = new AbortController();
  /** What is to come, the next first. */
  private coming: readonly Coming[] = [];
  private busy = false;
  /** When a hand moved last; who opens the page has just moved one. */
  private movedAt = Date.now();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop.abort());
  }

  /** The note that tells most; at once where it was worked out before. */
  tell(request: TellRequest): Promise<Telling> {
    return this.once(request, (of) => of.tell(request));
  }

  /** A key as it sounds; at once where it was rendered before. */
  sound(request: SoundRequest): Promise<Sound> {
    return this.once(request, (of) => of.sound(request));
  }

  /** Works out what will be asked for, instead of what was to come before. */
  ahead(coming: readonly Coming[]): void {
    this.coming = coming;
    if (!this.busy) void this.goOn();
  }

  /** A hand moves: what is to come waits until it rests. */
  moved(): void {
    this.movedAt = Date.now();
  }

  private async quiet(): Promise<void> {
    for (let left; (left = this.movedAt + QUIET_MS - Date.now()) > 0;)
      await new Promise((on) => setTimeout(on, left));
  }

  private once<T>(request: Coming, question: (of: Remote<StageWorker>) => Promise<T>): Promise<T> {
    const key = keyOf(request);
    // What is kept under a key is what its kind of question was answered with.
    const there = this.known.get(key) as Promise<T> | undefined;
    if (there) return there;
    if (this.known.size >= MOST_KEPT) this.known.clear();
    const made = ask<StageWorker, T>(this.start(), question, this.stop.signal);
    this.known.set(key, made);
    // What could not be worked out is tried again when it is asked for.
    made.catch(() => this.known.delete(key));
    return made;
  }

  private async goOn(): Promise<void> {
    this.busy = true;
    for (;;) {
      await this.quiet();
      const next = this.coming.find((request) => !this.known.has(keyOf(request)));
      if (!next || this.stop.signal.aborted) break;
      const made: Promise<unknown> = 'steps' in next ? this.tell(next) : this.sound(next);
      // One that fails is left out: it is told when it is asked for.
      await made.catch(() => (this.coming = this.coming.filter((r) => r !== next)));
    }
    this.busy = false;
  }
}

/** What is asked, of what: two units of one instrument sound otherwise by what their controls come to. */
function keyOf(request: Coming): string {
  const { face, patch, ...asked } = request;
  const known = keys.get(request);
  if (known !== undefined) return known;
  const key = JSON.stringify([face.id, face.controls.map((c) => c.bindings), patch, asked]);
  keys.set(request, key);
  return key;
}
const keys = new WeakMap<Coming, string>();
