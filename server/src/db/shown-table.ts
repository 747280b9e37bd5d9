import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What the panel of a unit, or of an instrument without one, shows now as far as is known. */
export class ShownTable1803000000000 implements MigrationInterface {
  name = 'ShownTable1803000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE panel_shown (
      panel TEXT NOT NULL PRIMARY KEY, shown TEXT NOT NULL, updated_at TEXT NOT NULL) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE panel_shown');
  }
}
