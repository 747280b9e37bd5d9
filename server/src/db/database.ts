import { AsyncLocalStorage } from 'node:async_hooks';
import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { Mutex } from 'async-mutex';
import Sqlite from 'better-sqlite3';
import { DataSource, type EntityManager } from 'typeorm';
import { type Connection, connectionOf } from './connection';
import { entities } from './entities';
import { migrations } from './migrations';
import { Storage } from './storage';
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
  /**
   * Runs one change at a time: all of it is written, or nothing. Resolves once it is safe on the disk. Changes made within a
   * change are part of it.
   */
  write<T>(change: (manager: EntityManager) => Promise<T>): Promise<T>;
  /** Gives room that was freed back to the disk. */
  shrink(): Promise<void>;
  /** Copies the whole library, as it is at one moment, while it goes on being used. */
  backup: Connection['backup'];
  close(): Promise<void>;
}

const open = (file: string, prepare: (connection: Connection) => void): Promise<DataSource> =>
  new DataSource({
    type: 'better-sqlite3',
    driver: Sqlite,
    database: file,
    entities,
    migrations,
    prepareDatabase: (connection: Connection) => {
      prepare(connection);
      connection.pragma('journal_mode = WAL');
      // The default of WAL would let a power cut take what was acknowledged.
      connection.pragma('synchronous = FULL');
      connection.pragma('foreign_keys = ON');
      connection.pragma('busy_timeout = 5000');
    },
  }).initialize();

/** Opens the file, makes its folder, brings its tables up to date. */
export async function openDatabase(file: string): Promise<Database> {
  mkdirSync(dirname(file), { recursive: true });
  const writer = await open(file, (connection) => {
    // Of a file that is still empty: what is deleted later gives its room back.
    connection.pragma('auto_vacuum = INCREMENTAL');
  });
  await writer.runMigrations();
  const reader = await open(file, () => undefined);
  connectionOf(reader).pragma('query_only = ON');
  const storage = new Storage(file);
  const within = new AsyncLocalStorage<EntityManager>();
  // All changes share one connection: two transactions at once would run into each other.
  const one = new Mutex();
  return {
    file,
    get source() {
      return within.getStore() ? writer : reader;
    },
    storage,
    write: (change) => {
      const manager = within.getStore();
      if (manager) return change(manager);
      return one.runExclusive(() =>
        storage.watch(() => inTransaction(writer, (m) => within.run(m, () => change(m)))),
      );
    },
    shrink: () =>
      one.runExclusive(async () => {
        connectionOf(writer).pragma('incremental_vacuum');
        // Until it is written back, the log holds what the file has given up.
        connectionOf(writer).pragma('wal_checkpoint(TRUNCATE)');
      }),
    backup: (to) => connectionOf(reader).backup(to),
    close: () =>
      one.runExclusive(async () => {
        await reader.destroy();
        await writer.destroy();
      }),
  };
}
