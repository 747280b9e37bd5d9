import { Injectable, signal } from '@angular/core';
import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

interface Disk extends DBSchema {
  kept: {
    key: string;
    /** `text` null: it was removed then. */
    value: { text: string | null; at: number };
  };
}

/** What is kept here; everything else in the browser's store is of no weight. */
const OURS = /^hurrel\.(draft|walk|heard-untold)/;
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
  /** Whether the disk does not take them: then only `localStorage` holds them. */
  readonly refused = signal(false);
  private readonly disk: Promise<IDBPDatabase<Disk> | null> = openDisk();
  /** Resolves once what an earlier run kept is back in `localStorage`. */
  readonly ready: Promise<void> = Promise.race([
    this.restore(),
    new Promise<void>((done) => setTimeout(done, PATIENCE_MS)),
  ]);
  /** The newest of each thing that is still to be written: what comes in between need not be. */
  private readonly next = new Map<string, string | null>();
  private writing = false;

  /** Keeps a text. @throws DOMException when the browser's store is full or forbidden, and nothing else takes it */
  put(key: string, text: string): void {
    this.write(key, text);
    try {
      localStorage.setItem(key, text);
    } catch (error) {
      this.next.delete(key);
      this.count();
      throw error;
    }
  }

  remove(key: string): void {
    if (localStorage.getItem(key) === null && !this.next.has(key)) return;
    localStorage.removeItem(key);
    this.write(key, null);
  }

  private write(key: string, text: string | null): void {
    this.next.set(key, text);
    this.count();
    if (!this.writing) void this.writeAll();
  }

  private count(): void {
    if (this.behind() !== this.next.size) this.behind.set(this.next.size);
  }

  private async writeAll(): Promise<void> {
    this.writing = true;
    // What is said in one go is written in one go.
    await this.ready;
    const disk = await this.disk;
    while (disk && this.next.size > 0) {
      const round = [...this.next];
      try {
        const change = disk.transaction('kept', 'readwrite', { durability: 'strict' });
        const at = Date.now();
        for (const [key, text] of round) void change.store.put({ text, at }, key);
        await change.done;
        this.refused.set(false);
      } catch {
        // A disk that is full or closed: localStorage has it, and the next change tries again.
        this.refused.set(true);
        break;
      }
      for (const [key, text] of round) if (this.next.get(key) === text) this.next.delete(key);
      this.count();
    }
    this.writing = false;
  }

  private async restore(): Promise<void> {
    const disk = await this.disk;
    if (!disk) return;
    try {
      const change = disk.transaction('kept', 'readwrite', { durability: 'strict' });
      const known = new Set<string>();
      for await (const cursor of change.store) {
        const { key, value } = cursor;
        known.add(key);
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
          await change.store.put({ text, at: Date.now() }, key);
      }
      await change.done;
    } catch {
      // localStorage has what it has.
    }
  }
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
