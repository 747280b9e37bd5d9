import type { MigrationInterface, QueryRunner } from 'typeorm';

const KINDS = ['unit', 'session'];

/** Units and sessions get immutable versions, as patches have them; what was there becomes the first that is kept. */
export class HistoryTables1797000000000 implements MigrationInterface {
  name = 'HistoryTables1797000000000';

  async up(run: QueryRunner): Promise<void> {
    for (const kind of KINDS) {
      await run.query(`CREATE TABLE ${kind}_version (
        ${kind}_id TEXT NOT NULL REFERENCES ${kind}(id), number INTEGER NOT NULL,
        document TEXT NOT NULL, origin TEXT NOT NULL, created_at TEXT NOT NULL,
        PRIMARY KEY (${kind}_id, number)) STRICT`);
      await run.query(`INSERT INTO ${kind}_version (${kind}_id, number, document, origin, created_at)
        SELECT id, version, document, 'first that is kept', updated_at FROM ${kind}`);
      await run.query(`CREATE TRIGGER ${kind}_version_stays BEFORE UPDATE ON ${kind}_version
        BEGIN SELECT RAISE(ABORT, 'a version is never changed'); END`);
      await run.query(`CREATE TRIGGER ${kind}_version_remains BEFORE DELETE ON ${kind}_version
        BEGIN SELECT RAISE(ABORT, 'a version is never removed'); END`);
      await run.query(`ALTER TABLE ${kind} RENAME COLUMN version TO head`);
      await run.query(`ALTER TABLE ${kind} DROP COLUMN document`);
    }
  }

  async down(run: QueryRunner): Promise<void> {
    for (const kind of KINDS) {
      await run.query(`ALTER TABLE ${kind} ADD COLUMN document TEXT NOT NULL DEFAULT '{}'`);
      await run.query(`UPDATE ${kind} SET document = (SELECT v.document FROM ${kind}_version v
        WHERE v.${kind}_id = ${kind}.id AND v.number = ${kind}.head)`);
      await run.query(`ALTER TABLE ${kind} RENAME COLUMN head TO version`);
      await run.query(`DROP TABLE ${kind}_version`);
    }
  }
}
