import { existsSync, statSync } from 'node:fs';
import Sqlite from 'better-sqlite3';
import { backUp } from './backups';
import { examine, LibraryError } from './examine';

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

/** Copies a library, also while a server uses it. */
export async function copyLibrary(from: string, to: string): Promise<void> {
  if (!existsSync(from)) throw new LibraryError(`There is no library at ${from}.`);
  const db = new Sqlite(from, { fileMustExist: true, timeout: 5000 });
  try {
    await backUp((file) => db.backup(file), to);
  } finally {
    db.close();
  }
}
