import { sumOfText } from './sum';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Sqlite from 'better-sqlite3';
import { DataSource } from 'typeorm';
import { openDatabase } from './database';
import { HistoryTables1797000000000 } from './history-tables';
import { migrations } from './migrations';
import { FirstTables1790000000000 } from './first-tables';
import { SessionsTable1796000000000 } from './sessions-table';
import { UnitsTable1795000000000 } from './units-table';

it('units and sessions of a library without a history keep what they hold, and begin to have one', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-test-'));
  const database = join(folder, 'old.db');
  const old = await new DataSource({
    type: 'better-sqlite3',
    driver: Sqlite,
    database,
    migrations: [FirstTables1790000000000, UnitsTable1795000000000, SessionsTable1796000000000],
    migrationsRun: true,
  }).initialize();
  await old.query(`INSERT INTO instrument VALUES ('i', '{}', 'then')`);
  await old.query(`INSERT INTO unit VALUES ('u', 'i', 'old', '{"n":7}', 7, 'then', 'later', NULL)`);
  await old.query(
    `INSERT INTO session VALUES ('s', 'n', 'x', '{"n":3}', 3, 'then', 'later', NULL)`,
  );
  await old.destroy();

  const { source, close } = await openDatabase(database);
  expect(await source.query('SELECT * FROM unit')).toEqual([
    {
      id: 'u',
      instrument_id: 'i',
      name: 'old',
      head: 7,
      created_at: 'then',
      updated_at: 'later',
      deleted_at: null,
    },
  ]);
  const first = { document: '{"n":7}', origin: 'first that is kept', created_at: 'later' };
  expect(await source.query('SELECT * FROM unit_version')).toEqual([
    { unit_id: 'u', number: 7, ...first, sum: sumOfText(first.document) },
  ]);
  expect(await source.query('SELECT session_id, number, document FROM session_version')).toEqual([
    { session_id: 's', number: 3, document: '{"n":3}' },
  ]);

  await close();
  const again = await new DataSource({
    type: 'better-sqlite3',
    driver: Sqlite,
    database,
    migrations,
  }).initialize();
  // Back past what came later.
  for (const _ of migrations.slice(migrations.indexOf(HistoryTables1797000000000))) {
    await again.undoLastMigration();
  }
  expect(await again.query('SELECT version, document FROM unit')).toEqual([
    { version: 7, document: '{"n":7}' },
  ]);
  await again.destroy();
  rmSync(folder, { recursive: true });
});
