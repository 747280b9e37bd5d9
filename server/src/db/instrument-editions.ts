import type { MigrationInterface, QueryRunner } from 'typeorm';

/**
 * Instruments become documents like the others: listed, removed, and put away. Each version knows since which one everything
 * recorded means the same; what is there was never changed in its meaning, so that is the first.
 */
export class InstrumentEditions1800000000000 implements MigrationInterface {
  name = 'InstrumentEditions1800000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`ALTER TABLE instrument ADD COLUMN name TEXT NOT NULL DEFAULT ''`);
    await run.query(`ALTER TABLE instrument ADD COLUMN maker TEXT NOT NULL DEFAULT ''`);
    await run.query(`ALTER TABLE instrument ADD COLUMN updated_at TEXT NOT NULL DEFAULT ''`);
    await run.query('ALTER TABLE instrument ADD COLUMN deleted_at TEXT');
    await run.query('ALTER TABLE instrument ADD COLUMN archived_at TEXT');
    await run.query('ALTER TABLE instrument_version ADD COLUMN since INTEGER NOT NULL DEFAULT 1');
    await run.query(`UPDATE instrument SET (name, maker, updated_at) = (
      SELECT coalesce(json_extract(v.document, '$.name'), ''),
        coalesce(json_extract(v.document, '$.maker'), ''), v.created_at
      FROM instrument_version v WHERE v.instrument_id = instrument.id AND v.number = instrument.head)`);
  }

  async down(run: QueryRunner): Promise<void> {
    for (const column of ['name', 'maker', 'updated_at', 'deleted_at', 'archived_at'])
      await run.query(`ALTER TABLE instrument DROP COLUMN ${column}`);
    await run.query('ALTER TABLE instrument_version DROP COLUMN since');
  }
}
