import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Instruments get immutable versions; what was there becomes the first of each. */
export class InstrumentVersions1799000000000 implements MigrationInterface {
  name = 'InstrumentVersions1799000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE instrument_version (
      instrument_id TEXT NOT NULL REFERENCES instrument(id), number INTEGER NOT NULL,
      document TEXT NOT NULL, origin TEXT NOT NULL, created_at TEXT NOT NULL,
      PRIMARY KEY (instrument_id, number)) STRICT`);
    await run.query(`INSERT INTO instrument_version (instrument_id, number, document, origin, created_at)
      SELECT id, 1, document, 'created', created_at FROM instrument`);
    await run.query(`CREATE TRIGGER instrument_version_stays BEFORE UPDATE ON instrument_version
      BEGIN SELECT RAISE(ABORT, 'a version is never changed'); END`);
    await run.query(`CREATE TRIGGER instrument_version_remains BEFORE DELETE ON instrument_version
      BEGIN SELECT RAISE(ABORT, 'a version is never removed'); END`);
    await run.query('ALTER TABLE instrument ADD COLUMN head INTEGER NOT NULL DEFAULT 1');
    await run.query('ALTER TABLE instrument DROP COLUMN document');
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`ALTER TABLE instrument ADD COLUMN document TEXT NOT NULL DEFAULT '{}'`);
    await run.query(`UPDATE instrument SET document = (SELECT v.document FROM instrument_version v
      WHERE v.instrument_id = instrument.id AND v.number = instrument.head)`);
    await run.query('DROP TABLE instrument_version');
    await run.query('ALTER TABLE instrument DROP COLUMN head');
  }
}
