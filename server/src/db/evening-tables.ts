import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sets: evenings on stage, with their versions. */
export class EveningTables1804000000000 implements MigrationInterface {
  name = 'EveningTables1804000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE evening (
      id TEXT PRIMARY KEY,
      name TEXT NOT NULL, date TEXT NOT NULL, head INTEGER NOT NULL,
      created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT) STRICT`);
    await run.query(`CREATE TABLE evening_version (
      evening_id TEXT NOT NULL REFERENCES evening(id), number INTEGER NOT NULL,
      document TEXT NOT NULL, origin TEXT NOT NULL, created_at TEXT NOT NULL,
      PRIMARY KEY (evening_id, number)) STRICT`);
    await run.query(`CREATE TRIGGER evening_version_stays BEFORE UPDATE ON evening_version
      BEGIN SELECT RAISE(ABORT, 'a version is never changed'); END`);
    await run.query(`CREATE TRIGGER evening_version_remains BEFORE DELETE ON evening_version
      BEGIN SELECT RAISE(ABORT, 'a version is never removed'); END`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE evening_version');
    await run.query('DROP TABLE evening');
  }
}
