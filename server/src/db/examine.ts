import {
  accessSync,
  closeSync,
  constants,
  existsSync,
  mkdirSync,
  openSync,
  readSync,
  statSync,
} from 'node:fs';
import { dirname, join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { migrations } from './migrations';
import { ALONE, troubleOf, wantsRoom } from './trouble';

/** Why a library cannot be used, in words that say what to do. */
export class LibraryError extends Error {}

/** What stands at a library's place. */
export interface Found {
  /** Nothing is there yet. */
  isNew: boolean;
  /** Names of what would bring it up to date. */
  pending: string[];
}

/** What a library's file begins with. */
export const MAGIC = 'SQLite format 3\0';
/** How long another program may hold the file before it is told, in ms. */
const PATIENCE_MS = 3000;

/**
 * Looks at a library before it is used: that it can be written, is whole, is one of Hurrel's, and not a newer one's.
 * @throws LibraryError in one sentence, and what to do
 */
export function examine(file: string): Found {
  if (!existsSync(file)) return newAt(file);
  if (statSync(file).isDirectory())
    throw new LibraryError(
      `${file} is a folder. Set HURREL_DB to a file in it, as ${join(file, 'hurrel.db')}.`,
    );
  if (statSync(file).size === 0) return { isNew: true, pending: [] };
  refuseOther(file);
  return inside(file, (db) => {
    const [fault] = db.pragma('quick_check(1)') as { quick_check: string }[];
    if (fault?.quick_check !== 'ok') throw damaged(file, fault?.quick_check ?? 'unreadable');
    db.exec('BEGIN IMMEDIATE; ROLLBACK');
    const tables = db.prepare(`SELECT name FROM sqlite_master WHERE type = 'table'`).pluck().all();
    if (tables.length === 0) return { isNew: true, pending: [] };
    if (!tables.includes('migrations') || !tables.includes('instrument')) {
      throw new LibraryError(
        `${file} is a database of something else. Set HURREL_DB to another place.`,
      );
    }
    const done = db.prepare('SELECT name FROM migrations').pluck().all() as string[];
    const known = migrations.map((m) => m.name);
    const newer = done.filter((name) => !known.includes(name));
    if (newer.length > 0) {
      throw new LibraryError(
        `${file} was written by a newer Hurrel, which this one would harm. Start the newer one, or put back a backup of before (npm run restore).`,
      );
    }
    return { isNew: false, pending: known.filter((name) => !done.includes(name)) };
  });
}

function newAt(file: string): Found {
  const folder = dirname(file);
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
  } catch {
    throw new LibraryError(
      `Nothing can be written to ${folder}. Allow it, or set HURREL_DB to another place.`,
    );
  }
  return { isNew: true, pending: [] };
}

function refuseOther(file: string): void {
  let handle: number;
  try {
    accessSync(file, constants.W_OK);
    handle = openSync(file, 'r');
  } catch {
    throw new LibraryError(
      `${file} may not be read and written. Allow it, or set HURREL_DB to another place.`,
    );
  }
  const head = Buffer.alloc(MAGIC.length);
  readSync(handle, head, 0, MAGIC.length, 0);
  closeSync(handle);
  if (head.toString('latin1') !== MAGIC) throw damaged(file, 'it does not begin as a library does');
}

function inside<T>(file: string, look: (db: Sqlite.Database) => T, alone = false): T {
  let db: Sqlite.Database | undefined;
  try {
    db = new Sqlite(file, { fileMustExist: true, timeout: PATIENCE_MS });
    if (alone) db.pragma(ALONE);
    return look(db);
  } catch (error) {
    if (error instanceof LibraryError) throw error;
    const trouble = troubleOf(error);
    if (!alone && trouble && wantsRoom(trouble)) {
      db?.close();
      return inside(file, look, true);
    }
    if (trouble?.kind === 'damaged') throw damaged(file, (error as Error).message);
    if (trouble) throw new LibraryError(`${file}: ${trouble.says}`);
    throw error;
  } finally {
    db?.close();
  }
}

const damaged = (file: string, why: string): LibraryError =>
  new LibraryError(
    `${file} is damaged (${why}). Move it and the files beside it with -wal and -shm away, and put back a backup: npm run restore -- FILE. Hurrel keeps one a day in "backups" beside it.`,
  );
