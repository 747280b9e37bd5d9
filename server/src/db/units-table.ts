import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Units of instruments, with their calibration and what is in their memory; and an index by which patches are found. */
export class UnitsTable1795000000000 implements MigrationInterface {
  name = 'UnitsTable1795000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE unit (
      id TEXT PRIMARY KEY,
      instrument_id TEXT NOT NULL REFERENCES instrument(id),
      name TEXT NOT NULL, document TEXT NOT NULL, version INTEGER NOT NULL,
      created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT) STRICT`);
    await run.query(`CREATE INDEX unit_by_instrument ON unit (deleted_at, instrument_id, name)`);
    await run.query(
      `CREATE INDEX patch_by_instrument ON patch (deleted_at, instrument_id, song, name)`,
    );
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP INDEX patch_by_instrument');
    await run.query('DROP TABLE unit');
  }
}
