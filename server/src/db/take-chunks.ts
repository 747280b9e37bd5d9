import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Recordings lie in pieces: they come and go without being held in memory as a whole, and without holding anybody up. */
export class TakeChunks1798000000000 implements MigrationInterface {
  name = 'TakeChunks1798000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE take_chunk (
      take_id TEXT NOT NULL, number INTEGER NOT NULL, bytes BLOB NOT NULL,
      PRIMARY KEY (take_id, number)) STRICT`);
    await run.query(
      `INSERT INTO take_chunk (take_id, number, bytes) SELECT id, 0, bytes FROM take`,
    );
    await run.query(`ALTER TABLE take DROP COLUMN bytes`);
    await run.query(`ALTER TABLE take ADD COLUMN size INTEGER NOT NULL DEFAULT 0`);
    await run.query(`UPDATE take SET size =
      (SELECT length(c.bytes) FROM take_chunk c WHERE c.take_id = take.id)`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`ALTER TABLE take ADD COLUMN bytes BLOB NOT NULL DEFAULT x''`);
    // Only what lies in one piece can go back into one.
    await run.query(`UPDATE take SET bytes =
      (SELECT c.bytes FROM take_chunk c WHERE c.take_id = take.id AND c.number = 0)`);
    await run.query(`ALTER TABLE take DROP COLUMN size`);
    await run.query(`DROP TABLE take_chunk`);
  }
}
