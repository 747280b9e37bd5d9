import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Instruments, patches with immutable versions, progress of rebuilds. */
export class FirstTables1790000000000 implements MigrationInterface {
  name = 'FirstTables1790000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE instrument (
      id TEXT PRIMARY KEY, document TEXT NOT NULL, created_at TEXT NOT NULL) STRICT`);
    await run.query(`CREATE TABLE patch (
      id TEXT PRIMARY KEY,
      instrument_id TEXT NOT NULL REFERENCES instrument(id),
      name TEXT NOT NULL, song TEXT NOT NULL, role TEXT NOT NULL, about TEXT NOT NULL,
      recorded INTEGER NOT NULL, head INTEGER NOT NULL,
      created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT) STRICT`);
    await run.query(`CREATE INDEX patch_by_song ON patch (deleted_at, song, name)`);
    await run.query(`CREATE TABLE patch_version (
      patch_id TEXT NOT NULL REFERENCES patch(id), number INTEGER NOT NULL,
      document TEXT NOT NULL, origin TEXT NOT NULL, created_at TEXT NOT NULL,
      PRIMARY KEY (patch_id, number)) STRICT`);
    await run.query(`CREATE TRIGGER patch_version_stays BEFORE UPDATE ON patch_version
      BEGIN SELECT RAISE(ABORT, 'a version is never changed'); END`);
    await run.query(`CREATE TRIGGER patch_version_remains BEFORE DELETE ON patch_version
      BEGIN SELECT RAISE(ABORT, 'a version is never removed'); END`);
    await run.query(`CREATE TABLE rebuild_progress (
      patch_id TEXT NOT NULL REFERENCES patch(id), origin TEXT NOT NULL,
      done TEXT NOT NULL, updated_at TEXT NOT NULL, PRIMARY KEY (patch_id, origin)) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    for (const table of ['rebuild_progress', 'patch_version', 'patch', 'instrument']) {
      await run.query(`DROP TABLE ${table}`);
    }
  }
}
