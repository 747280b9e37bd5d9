import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Photographs of panels, each under the checksum of its bytes. */
export class PhotographsTable1802000000000 implements MigrationInterface {
  name = 'PhotographsTable1802000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE photograph (
      id TEXT PRIMARY KEY NOT NULL, width INTEGER NOT NULL, height INTEGER NOT NULL,
      bytes BLOB NOT NULL, created_at TEXT NOT NULL) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE photograph');
  }
}
