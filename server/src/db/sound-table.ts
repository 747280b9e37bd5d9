import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Recordings that patches are fed with, each under the checksum of its bytes. */
export class SoundTable1807000000000 implements MigrationInterface {
  name = 'SoundTable1807000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE sound (
      id TEXT PRIMARY KEY NOT NULL, seconds REAL NOT NULL, bytes BLOB NOT NULL,
      created_at TEXT NOT NULL) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE sound');
  }
}
