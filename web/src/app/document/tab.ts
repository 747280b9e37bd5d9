import { Injectable } from '@angular/core';

const KEY = 'hurrel.tab';
const lockOf = (tab: string): string => `hurrel.tab.${tab}`;
const freshId = (): string =>
  Array.from(crypto.getRandomValues(new Uint8Array(8)), (b) =>
    b.toString(16).padStart(2, '0'),
  ).join('');

/**
 * Which tab of the browser this is. It keeps its name over a reload, and a tab that was duplicated gets one of its own: each
 * holds a lock on its name for as long as it lives.
 */
@Injectable({ providedIn: 'root' })
export class Tab {
  private name = sessionStorage.getItem(KEY) ?? freshId();
  /** Resolves once the name is this tab's alone. */
  readonly ready: Promise<void> = this.claim();

  get id(): string {
    return this.name;
  }

  /** Names of the tabs that live, this one among them; undefined where the browser does not tell. */
  async living(): Promise<ReadonlySet<string> | undefined> {
    await this.ready;
    const locks = navigator.locks as LockManager | undefined;
    if (!locks) return undefined;
    const { held = [] } = await locks.query();
    return new Set([this.name, ...held.map((lock) => lock.name?.slice(lockOf('').length) ?? '')]);
  }

  private async claim(): Promise<void> {
    // Without a secure connection there are no locks, and the name is believed.
    const locks = navigator.locks as LockManager | undefined;
    while (locks && !(await hold(locks, lockOf(this.name)))) this.name = freshId();
    sessionStorage.setItem(KEY, this.name);
  }
}

/** Takes a lock and never gives it back; false when another holds it. */
const hold = (locks: LockManager, name: string): Promise<boolean> =>
  new Promise((told) => {
    void locks.request(name, { ifAvailable: true }, (lock) => {
      told(lock !== null);
      return lock === null ? undefined : new Promise(() => undefined);
    });
  });
