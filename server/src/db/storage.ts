import { statfs } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { Damage } from './verify';
import { type Trouble, trouble, troubleOf } from './trouble';

/** Room in bytes below which it is told before it runs out. */
const LOW = 200 * 1024 * 1024;
/** Room in bytes that is none. */
const NOTHING = 128 * 1024;

/** How the library's place is: told to every page. */
export interface StorageState {
  state: 'well' | 'low' | 'trouble';
  /** For people; empty while all is well. */
  says: string;
  /** Room that is left, in bytes; null when the system does not tell. */
  free: number | null;
}

/** A disk without room is told as full, whatever SQLite stumbled over. */
const saidOf = (found: Trouble, free: number | null): string =>
  found.kind === 'failing' && free !== null && free < NOTHING ? trouble('full').says : found.says;

/** Damaged documents by their names, a few of them. */
function damagesTold(found: readonly Damage[]): string {
  const names = [...new Set(found.map(({ kind, name }) => `${kind} ${name}`))];
  const told = names.slice(0, 3).join(', ') + (names.length > 3 ? ' and others' : '');
  return `Damaged on the disk: ${told}. Open it to restore an intact version, and check the disk.`;
}

/** Watches whether the library can be written: by what writes came to, and by the room that is left. */
export class Storage {
  private trouble: Trouble | null = null;
  private damages: readonly Damage[] = [];

  constructor(private readonly file: string) {}

  /** Passes on what a write came to, and remembers it. */
  async watch<T>(write: () => Promise<T>): Promise<T> {
    try {
      const result = await write();
      this.trouble = null;
      return result;
    } catch (error) {
      this.hear(error);
      throw error;
    }
  }

  /** Remembers what an error tells of the disk. Refusals of what was asked for tell nothing of it. */
  hear(error: unknown): void {
    this.trouble = troubleOf(error) ?? this.trouble;
  }

  /** Documents that were found to be otherwise than they were written. */
  tellDamages(found: readonly Damage[]): void {
    this.damages = found;
  }

  async state(): Promise<StorageState> {
    const free = await this.free();
    if (this.trouble) return { state: 'trouble', says: saidOf(this.trouble, free), free };
    if (this.damages.length > 0) return { state: 'trouble', says: damagesTold(this.damages), free };
    if (free === null || free >= LOW) return { state: 'well', says: '', free };
    const left = `${Math.round(free / 1024 / 1024)} MB`;
    return {
      state: 'low',
      says: `Only ${left} are left on the disk that holds the library. Make room before it is full.`,
      free,
    };
  }

  private async free(): Promise<number | null> {
    try {
      const { bavail, bsize } = await statfs(dirname(this.file));
      return bavail * bsize;
    } catch {
      return null;
    }
  }
}
