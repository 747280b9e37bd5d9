import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Versions can be given names: they themselves are never changed, so those stand beside them. */
export class VersionNames1801000000000 implements MigrationInterface {
  name = 'VersionNames1801000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE version_name (
      kind TEXT NOT NULL, document_id TEXT NOT NULL, number INTEGER NOT NULL, name TEXT NOT NULL,
      PRIMARY KEY (kind, document_id, number)) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE version_name');
  }
}
