import { computed, DestroyRef, inject, Injectable, signal } from '@angular/core';
import { joinMarks, type Marks, newsOf, type WalkMark, withMark } from '@hurrel/core';
import { ApiError } from '../api/client';
import { type Walk, WALK_API } from './walk.api';
import { WalkStore } from './walk-store';

/** Ms until what could not be sent is tried again. */
const AGAIN_MS = 2000;

/**
 * A walk that goes on, on this device and on all others: what is said here holds at once, is kept here, sent when it can be,
 * and brought together with what is said elsewhere. Nothing waits for a network.
 */
@Injectable()
export class WalkLine {
  private readonly api = inject(WALK_API);
  private readonly store = inject(WalkStore);

  readonly walk = signal<Walk | null>(null);
  readonly marks = signal<Marks>({});
  /** Why there is no walk, in words. */
  readonly error = signal('');
  /** Whether what others say is heard at once. */
  readonly connected = signal(false);
  /** What the server has not acknowledged. */
  private readonly unsent = signal<Marks>({});
  readonly waiting = computed(() => Object.keys(this.unsent()).length);
  readonly refused = this.store.refused;

  private hangUp: () => void = () => undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending = false;
  private closed = false;

  constructor() {
    const online = (): void => void this.send();
    const other = (event: StorageEvent): void => this.hearTab(event);
    addEventListener('online', online);
    addEventListener('storage', other);
    inject(DestroyRef).onDestroy(() => {
      removeEventListener('online', online);
      removeEventListener('storage', other);
      this.close();
    });
  }

  /** Opens a walk: what this device has kept of it at once, then what the server knows. */
  async open(id: string): Promise<void> {
    const kept = this.store.find(id);
    if (kept) {
      this.walk.set(kept.walk);
      this.marks.set(kept.marks);
      this.unsent.set(kept.waiting);
    }
    this.hangUp();
    await this.read(id);
    if (this.closed || !this.walk()) return;
    this.hangUp = this.api.hear(id, {
      open: () => {
        this.connected.set(true);
        // What was said between the last answer and now.
        void this.read(id);
        void this.send();
      },
      news: (marks) => this.hear(marks),
      lost: () => this.connected.set(false),
    });
    void this.send();
  }

  /** Says something: it holds here at once. */
  say(
    key: string,
    value: string,
    more: Pick<WalkMark, 'person' | 'kind' | 'seconds' | 'missed'> = {},
  ): void {
    const said = {
      value,
      device: this.store.device,
      at: new Date().toISOString(),
      ...more,
    };
    const marks = withMark(this.marks(), key, said);
    this.marks.set(marks);
    this.unsent.update((all) => ({ ...all, [key]: marks[key]! }));
    this.keep();
    void this.send();
  }

  private async read(id: string): Promise<void> {
    try {
      const { walk, marks } = await this.api.read(id);
      if (this.closed) return;
      this.walk.set(walk);
      this.error.set('');
      this.hear(marks);
      // Whatever the server does not know waits, whichever tab of this device it was said in.
      this.unsent.update((all) => ({ ...all, ...newsOf(marks, this.marks()) }));
    } catch (error) {
      if (!this.walk() || !isAway(error)) this.error.set((error as Error).message);
    }
  }

  private hear(marks: Marks): void {
    if (Object.keys(newsOf(this.marks(), marks)).length > 0)
      this.marks.update((known) => joinMarks(known, marks));
    this.keep();
  }

  /** Another tab of this device kept something of the same walk. */
  private hearTab({ key }: StorageEvent): void {
    const id = this.walk()?.id;
    if (id === undefined || !key?.endsWith(id)) return;
    const kept = this.store.find(id);
    if (kept) this.marks.update((known) => joinMarks(known, kept.marks));
  }

  private async send(): Promise<void> {
    const walk = this.walk();
    const sent = this.unsent();
    if (this.sending || this.closed || !walk || Object.keys(sent).length === 0) return;
    clearTimeout(this.timer);
    this.sending = true;
    let again = 0;
    try {
      const stands = await this.api.send(walk.id, sent);
      this.error.set('');
      // What was said while that was under way still waits.
      this.unsent.update((all) =>
        Object.fromEntries(Object.entries(all).filter(([key, mark]) => mark !== sent[key])),
      );
      this.hear(stands);
    } catch (error) {
      // What a server refuses it refuses again: it is told, and kept.
      if (isAway(error)) again = AGAIN_MS;
      else this.error.set((error as Error).message);
    } finally {
      this.sending = false;
    }
    if (again > 0 && !this.closed) this.timer = setTimeout(() => void this.send(), again);
    else if (again === 0 && this.error() === '') void this.send();
  }

  private keep(): void {
    const walk = this.walk();
    if (walk) this.store.keep({ walk, marks: this.marks(), waiting: this.unsent() });
  }

  private close(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.hangUp();
  }
}

const isAway = (error: unknown): boolean =>
  error instanceof ApiError && (error.offline || error.status >= 500 || error.status === 429);
