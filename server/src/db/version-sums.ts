import type { MigrationInterface, QueryRunner } from 'typeorm';
import { sumOfText } from './sum';

const KINDS = ['patch', 'instrument', 'unit', 'session', 'evening'];
/** Versions that are read at once. */
const AT_ONCE = 200;

interface Row {
  row: number;
  document: string;
}

/** Each version with the checksum of its document: what the disk has changed since is seen. */
export class VersionSums1808000000000 implements MigrationInterface {
  name = 'VersionSums1808000000000';

  async up(run: QueryRunner): Promise<void> {
    for (const kind of KINDS) {
      const table = `${kind}_version`;
      await run.query(`ALTER TABLE ${table} ADD COLUMN sum TEXT`);
      await run.query(`DROP TRIGGER ${table}_stays`);
      for (let after = -1; ;) {
        const rows = (await run.query(
          `SELECT rowid AS row, document FROM ${table} WHERE rowid > ? ORDER BY rowid LIMIT ${AT_ONCE}`,
          [after],
        )) as Row[];
        for (const { row, document } of rows)
          await run.query(`UPDATE ${table} SET sum = ? WHERE rowid = ?`, [
            sumOfText(document),
            row,
          ]);
        if (rows.length < AT_ONCE) break;
        after = rows.at(-1)!.row;
      }
      await run.query(`CREATE TRIGGER ${table}_stays BEFORE UPDATE ON ${table}
        BEGIN SELECT RAISE(ABORT, 'a version is never changed'); END`);
    }
  }

  async down(run: QueryRunner): Promise<void> {
    for (const kind of KINDS) await run.query(`ALTER TABLE ${kind}_version DROP COLUMN sum`);
  }
}
