import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Devices that were let in with the passcode, each by a token of its own. */
export class DeviceTable1806000000000 implements MigrationInterface {
  name = 'DeviceTable1806000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE device (
      id TEXT PRIMARY KEY, name TEXT NOT NULL, token_hash TEXT NOT NULL UNIQUE,
      created_at TEXT NOT NULL, seen_at TEXT NOT NULL) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE device');
  }
}
