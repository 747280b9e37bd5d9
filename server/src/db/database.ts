import { AsyncLocalStorage } from 'node:async_hooks';
import { mkdirSync, renameSync, rmSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { Mutex } from 'async-mutex';
import Sqlite from 'better-sqlite3';
import { DataSource, type EntityManager } from 'typeorm';
import { backUp, backupFolder } from './backups';
import { type Connection, connectionOf } from './connection';
import { entities } from './entities';
import { migrations } from './migrations';
import { Storage } from './storage';
import { ALONE, troubleOf, wantsRoom } from './trouble';
import { inTransaction } from './transaction';

/** The store of record: one SQLite file. */
export interface Database {
  readonly file: string;
  /**
   * What reads ask: a connection of its own, which sees what is committed and nothing else. Within a change it is the
   * change's own.
   */
  readonly source: DataSource;
  readonly storage: Storage;
  /** When another library was put in its place while this program runs; null: never. */
  readonly replacedAt: string | null;
  /**
   * Runs one change at a time: all of it is written, or nothing. Resolves once it is safe on the disk. Changes made within a
   * change are part of it.
   */
  write<T>(change: (manager: EntityManager) => Promise<T>): Promise<T>;
  /** Resolves when no change is under way: what was written within one is committed by then, or given up. */
  settled(): Promise<void>;
  /** Gives room that was freed back to the disk. */
  shrink(): Promise<void>;
  /**
   * Puts another library, whole and up to date, in the place of this one. What is here is copied into the folder of backups
   * first; who is let in stays as it is.
   * @param from its file, which is gone afterwards
   * @returns the file of the copy
   */
  replaceBy(from: string): Promise<string>;
  /** Copies the whole library, as it is at one moment, while it goes on being used. */
  backup: Connection['backup'];
  close(): Promise<void>;
}

async function open(file: string, prepare: (connection: Connection) => void): Promise<DataSource> {
  let opened: Connection | undefined;
  const source = new DataSource({
    type: 'better-sqlite3',
    driver: Sqlite,
    database: file,
    entities,
    migrations,
    prepareDatabase: (connection: Connection) => {
      opened = connection;
      prepare(connection);
      connection.pragma('journal_mode = WAL');
      // The default of WAL would let a power cut take what was acknowledged.
      connection.pragma('synchronous = FULL');
      connection.pragma('foreign_keys = ON');
      connection.pragma('busy_timeout = 5000');
    },
  });
  try {
    return await source.initialize();
  } catch (error) {
    // TypeORM leaves it open, and it would hold the file.
    opened?.close();
    throw error;
  }
}

/** What writes, and what reads and sees only what is committed. Where the disk has no room for two, one does both. */
interface Connections {
  writer: DataSource;
  reader: DataSource;
}

/** Both; on a full disk, one alone, so that the library can at least be read. */
async function connections(file: string, storage: Storage): Promise<Connections> {
  try {
    return await two(file);
  } catch (error) {
    const found = troubleOf(error);
    if (!found || !wantsRoom(found)) throw error;
    storage.hear(error);
    const only = await open(file, (connection) => void connection.pragma(ALONE));
    await only.runMigrations();
    return { writer: only, reader: only };
  }
}

async function two(file: string): Promise<Connections> {
  const writer = await open(file, (connection) => {
    // Of a file that is still empty: what is deleted later gives its room back.
    connection.pragma('auto_vacuum = INCREMENTAL');
  });
  try {
    await writer.runMigrations();
    const reader = await open(file, () => undefined);
    connectionOf(reader).pragma('query_only = ON');
    return { writer, reader };
  } catch (error) {
    await writer.destroy();
    throw error;
  }
}

/** Who is let in to one library is let in to another, and nobody else. */
function keepDevices(from: string, to: string): void {
  const db = new Sqlite(to, { fileMustExist: true });
  try {
    db.prepare('ATTACH ? AS here').run(from);
    db.exec(`BEGIN IMMEDIATE; DELETE FROM main.device;
      INSERT INTO main.device SELECT * FROM here.device; COMMIT`);
  } finally {
    db.close();
  }
}

/** Opens the file, makes its folder, brings its tables up to date. */
export async function openDatabase(file: string): Promise<Database> {
  mkdirSync(dirname(file), { recursive: true });
  const storage = new Storage(file);
  let replacedAt: string | null = null;
  let { writer, reader } = await connections(file, storage);
  const within = new AsyncLocalStorage<EntityManager>();
  // All changes share one connection: two transactions at once would run into each other.
  const one = new Mutex();
  return {
    file,
    get source() {
      return within.getStore() ? writer : reader;
    },
    storage,
    get replacedAt() {
      return replacedAt;
    },
    write: (change) => {
      const manager = within.getStore();
      if (manager) return change(manager);
      return one.runExclusive(async () => {
        const result = await storage.watch(() =>
          inTransaction(writer, (m) => within.run(m, () => change(m))),
        );
        // There is room again: from now on reads have a connection of their own.
        if (writer === reader) {
          await writer.destroy();
          ({ writer, reader } = await connections(file, storage));
        }
        return result;
      });
    },
    settled: () => one.waitForUnlock(),
    shrink: () =>
      one.runExclusive(async () => {
        connectionOf(writer).pragma('incremental_vacuum');
        // Until it is written back, the log holds what the file has given up.
        connectionOf(writer).pragma('wal_checkpoint(TRUNCATE)');
      }),
    replaceBy: (from) =>
      one.runExclusive(async () => {
        const now = new Date().toISOString().replace(/[:.]/g, '-');
        const copy = join(backupFolder(file), `before-restore-${now}.db`);
        await backUp((to) => connectionOf(reader).backup(to), copy);
        keepDevices(file, from);
        if (reader !== writer) await reader.destroy();
        await writer.destroy();
        try {
          // A log that was left would be read as the new library's.
          for (const end of ['-wal', '-shm']) rmSync(file + end, { force: true });
          renameSync(from, file);
          replacedAt = new Date().toISOString();
        } finally {
          ({ writer, reader } = await connections(file, storage));
        }
        return copy;
      }),
    backup: (to) => connectionOf(reader).backup(to),
    close: () =>
      one.runExclusive(async () => {
        if (reader !== writer) await reader.destroy();
        await writer.destroy();
      }),
  };
}
