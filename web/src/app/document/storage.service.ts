import { Injectable, type OnDestroy, signal } from '@angular/core';
import { answer } from '../api/client';

/** How often the server is asked how its disk is, in ms. */
const EVERY_MS = 30_000;
/** The same while it is in trouble: that it is well again is told soon. */
const SOON_MS = 4_000;

interface Health {
  storage: { says: string };
  replacedAt: string | null;
}

/** What the server says of the place where it keeps things. */
@Injectable({ providedIn: 'root' })
export class StorageService implements OnDestroy {
  /** What is wrong there, in words; empty while all is well, or while nobody knows. */
  readonly says = signal('');
  /** Another library was put in the place of the one that this page has read from. */
  readonly replaced = signal(false);
  /** When that happened last, as first heard. */
  private known: string | null | undefined;
  private timer: ReturnType<typeof setTimeout> | undefined;

  /** Asks now, and again from time to time. */
  async look(): Promise<void> {
    clearTimeout(this.timer);
    try {
      const { storage, replacedAt } = await answer<Health>(fetch('/api/v1/health'));
      this.says.set(storage.says);
      if (this.known === undefined) this.known = replacedAt;
      // A server that was started again knows of none.
      else if (replacedAt !== null && replacedAt !== this.known) this.replaced.set(true);
    } catch {
      // A server that does not answer is told by what waits for it.
      this.says.set('');
    }
    this.timer = setTimeout(() => void this.look(), this.says() === '' ? EVERY_MS : SOON_MS);
  }

  ngOnDestroy(): void {
    clearTimeout(this.timer);
  }
}
