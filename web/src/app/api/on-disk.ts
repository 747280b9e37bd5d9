import { Injectable, signal } from '@angular/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

interface Disk extends DBSchema {
  kept: {
    key: string;
    value: Change;
  };
}

/** What was last done to a thing, and when. `text` null: it was removed. */
interface Change {
  text: string | null;
  at: number;
}

/** What is kept here; everything else in the browser's store is of no weight. */
const OURS = /^hurrel\.(draft|walk|heard-untold)/;
/** Under this name, and one of each page's own, stands what `localStorage` has and the disk not yet: when, by key. */
const AHEAD = 'hurrel.ahead.';
/** How long it is remembered that something was removed: by then no browser still holds what was there before. */
const REMOVED_MS = 7 * 86_400_000;
/** How long a start waits for the disk. */
const PATIENCE_MS = 3000;

/**
 * What this device keeps until the server has it, on its disk. `localStorage` is read and written at once and seen by all tabs,
 * but a browser writes it out when it finds time: what it was given seconds before it is killed is gone. So all of it is
 * committed to IndexedDB as well, with strict durability, and put back from there when the application starts.
 */
@Injectable({ providedIn: 'root' })
export class OnDisk {
  /** How many changes are not on the disk yet. */
  readonly behind = signal(0);
  private readonly ahead = AHEAD + Math.random().toString(36).slice(2);
  /** There is no disk to be ahead of. */
  private alone = false;
  private readonly disk: Promise<IDBPDatabase<Disk> | null> = openDisk();
  /** Resolves once what an earlier run kept is back in `localStorage`. */
  readonly ready: Promise<void> = Promise.race([
    this.restore(),
    new Promise<void>((done) => setTimeout(done, PATIENCE_MS)),
  ]);
  /** The newest of each thing that is still to be written: what comes in between need not be. */
  private readonly next = new Map<string, Change>();
  private writing = false;

  /** Keeps a text. @throws DOMException when the browser's store is full or forbidden */
  put(key: string, text: string): void {
    localStorage.setItem(key, text);
    this.write(key, text);
  }

  remove(key: string): void {
    if (localStorage.getItem(key) === null && !this.next.has(key)) return;
    localStorage.removeItem(key);
    this.write(key, null);
  }

  private write(key: string, text: string | null): void {
    this.next.set(key, { text, at: Date.now() });
    this.count();
    if (!this.writing) void this.writeAll();
  }

  private count(): void {
    if (this.behind() !== this.next.size) this.behind.set(this.next.size);
    if (this.next.size === 0 || this.alone) return localStorage.removeItem(this.ahead);
    const when = Object.fromEntries([...this.next].map(([key, { at }]) => [key, at]));
    putBack(this.ahead, JSON.stringify(when));
  }

  private async writeAll(): Promise<void> {
    this.writing = true;
    // What is said in one go is written in one go.
    await this.ready;
    const disk = await this.disk;
    this.count();
    while (disk && this.next.size > 0) {
      const round = [...this.next];
      try {
        const change = disk.transaction('kept', 'readwrite', { durability: 'strict' });
        for (const [key, what] of round) void change.store.put(what, key);
        await change.done;
      } catch {
        // A disk that is full or closed: localStorage has it, and the next change tries again.
        break;
      }
      for (const [key, what] of round) if (this.next.get(key) === what) this.next.delete(key);
      this.count();
    }
    this.writing = false;
  }

  private async restore(): Promise<void> {
    const disk = await this.disk;
    this.alone = disk === null;
    if (!disk) return;
    try {
      const change = disk.transaction('kept', 'readwrite', { durability: 'strict' });
      const ahead = aheadOfDisk();
      const known = new Set<string>();
      for await (const cursor of change.store) {
        const { key, value } = cursor;
        known.add(key);
        // A page that was left before it had written: what the browser holds is newer.
        if ((ahead.get(key) ?? 0) > value.at) {
          await cursor.update({ text: localStorage.getItem(key), at: ahead.get(key)! });
          continue;
        }
        if (value.text !== null) putBack(key, value.text);
        else {
          localStorage.removeItem(key);
          if (Date.now() - value.at > REMOVED_MS) await cursor.delete();
        }
      }
      // What was kept before there was this store.
      for (const key of Object.keys(localStorage)) {
        const text = localStorage.getItem(key);
        if (OURS.test(key) && !known.has(key) && text !== null)
          await change.store.put({ text, at: ahead.get(key) ?? Date.now() }, key);
      }
      await change.done;
      for (const name of marks()) localStorage.removeItem(name);
    } catch {
      // localStorage has what it has.
    }
  }
}

const marks = (): string[] => Object.keys(localStorage).filter((key) => key.startsWith(AHEAD));

/** What `localStorage` has and the disk may not: when it was put there, by key. */
function aheadOfDisk(): Map<string, number> {
  const found = new Map<string, number>();
  for (const name of marks()) {
    try {
      const when = JSON.parse(localStorage.getItem(name) ?? '{}') as Record<string, number>;
      for (const [key, at] of Object.entries(when))
        found.set(key, Math.max(at, found.get(key) ?? 0));
    } catch {
      // Nobody can tell what it was.
    }
  }
  return found;
}

/** What finds no place is still on the disk. */
function putBack(key: string, text: string): void {
  try {
    localStorage.setItem(key, text);
  } catch {
    // The page says that its store is full as soon as it is asked to keep something.
  }
}

/** Null where the browser has no such store, or keeps it from the page. */
async function openDisk(): Promise<IDBPDatabase<Disk> | null> {
  try {
    return await openDB<Disk>('hurrel', 1, {
      upgrade: (disk) => void disk.createObjectStore('kept'),
    });
  } catch {
    return null;
  }
}
