import { existsSync, realpathSync, statSync } from 'node:fs';
import Sqlite from 'better-sqlite3';
import { backUp } from './backups';
import { examine, LibraryError } from './examine';
import { ALONE, troubleOf, wantsRoom } from './trouble';

/** Puts a backup into an empty place. Refuses what is no whole library, and a place that holds one. */
export async function restore(from: string, to: string): Promise<void> {
  if (!existsSync(from)) throw new LibraryError(`There is no file ${from}.`);
  if (existsSync(to) && statSync(to).size > 0) {
    throw new LibraryError(
      `There is a library at ${to} already. Move it and the files beside it with -wal and -shm away first, or set HURREL_DB to another place.`,
    );
  }
  if (examine(from).isNew) throw new LibraryError(`${from} is empty.`);
  await copyLibrary(from, to);
}

/** Refuses a place where something stands that is no backup: nobody's file is written over. */
function refuseForeign(from: string, to: string): void {
  if (!existsSync(to)) return;
  const why = statSync(to).isDirectory() ? 'is a folder' : whyKept(from, to);
  if (why) throw new LibraryError(`${to} ${why}, which stays as it is. Name another file.`);
}

function whyKept(from: string, to: string): string {
  if (realpathSync(from) === realpathSync(to)) return 'is the library itself';
  const log = `${to}-wal`;
  if (existsSync(log) && statSync(log).size > 0) return 'is a library in use';
  try {
    return examine(to).isNew && statSync(to).size > 0 ? 'is no backup' : '';
  } catch {
    return 'is no backup';
  }
}

/** Copies a library, also while a server uses it. */
export async function copyLibrary(from: string, to: string): Promise<void> {
  if (!existsSync(from)) throw new LibraryError(`There is no library at ${from}.`);
  refuseForeign(from, to);
  const db = readable(from);
  try {
    await backUp((file) => db.backup(file), to);
  } catch (error) {
    const found = troubleOf(error);
    if (!found || !wantsRoom(found)) throw error;
    throw new LibraryError(
      `${to} could not be written: its disk is full or does not take it. Nothing was changed; make room there, or name a file elsewhere.`,
    );
  } finally {
    db.close();
  }
}

/** A connection that can read, on a full disk too. */
function readable(file: string): Sqlite.Database {
  for (const alone of [false, true]) {
    const db = new Sqlite(file, { fileMustExist: true, timeout: 5000 });
    try {
      if (alone) db.pragma(ALONE);
      db.prepare('SELECT count(*) FROM sqlite_master').get();
      return db;
    } catch (error) {
      db.close();
      const found = troubleOf(error);
      if (alone || !found || !wantsRoom(found)) throw error;
    }
  }
  throw new LibraryError(`${file} can not be read.`);
}
