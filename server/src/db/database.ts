import { mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { Mutex } from 'async-mutex';
import { DataSource, type EntityManager } from 'typeorm';
import {
  InstrumentEntity,
  PatchEntity,
  PatchVersionEntity,
  ProgressEntity,
  SessionEntity,
  SessionVersionEntity,
  TakeEntity,
  UnitEntity,
  UnitVersionEntity,
} from './entities';
import { FirstTables1790000000000 } from './first-tables';
import { HistoryTables1797000000000 } from './history-tables';
import { SessionsTable1796000000000 } from './sessions-table';
import { UnitsTable1795000000000 } from './units-table';

/** The store of record: one SQLite file. */
export interface Database {
  source: DataSource;
  /** Runs one change at a time: all of it is written, or nothing. Resolves once it is safe on the disk. */
  write<T>(change: (manager: EntityManager) => Promise<T>): Promise<T>;
  close(): Promise<void>;
}

/** Opens the file (`:memory:` for none), makes its folder, brings its tables up to date. */
export async function openDatabase(file: string): Promise<Database> {
  if (file !== ':memory:') mkdirSync(dirname(file), { recursive: true });
  const source = new DataSource({
    type: 'better-sqlite3',
    database: file,
    entities: [
      InstrumentEntity,
      PatchEntity,
      PatchVersionEntity,
      ProgressEntity,
      UnitEntity,
      UnitVersionEntity,
      SessionEntity,
      SessionVersionEntity,
      TakeEntity,
    ],
    migrations: [
      FirstTables1790000000000,
      UnitsTable1795000000000,
      SessionsTable1796000000000,
      HistoryTables1797000000000,
    ],
    migrationsRun: true,
    prepareDatabase: (db: { pragma(text: string): void }) => {
      db.pragma('journal_mode = WAL');
      // The default of WAL would let a power cut take what was acknowledged.
      db.pragma('synchronous = FULL');
      db.pragma('foreign_keys = ON');
      db.pragma('busy_timeout = 5000');
    },
  });
  await source.initialize();
  // All queries share one connection: two transactions at once would run into each other.
  const one = new Mutex();
  return {
    source,
    write: (change) => one.runExclusive(() => source.transaction(change)),
    close: () => one.runExclusive(() => source.destroy()),
  };
}
