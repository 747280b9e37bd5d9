import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Walks through sets, on stage and rehearsed, and what was said in them, thing by thing. */
export class WalkTables1805000000000 implements MigrationInterface {
  name = 'WalkTables1805000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE walk (
      id TEXT PRIMARY KEY, evening_id TEXT NOT NULL REFERENCES evening(id),
      kind TEXT NOT NULL, before TEXT NOT NULL, created_at TEXT NOT NULL, ended_at TEXT) STRICT`);
    await run.query('CREATE INDEX walk_of_evening ON walk(evening_id)');
    await run.query(`CREATE TABLE walk_mark (
      walk_id TEXT NOT NULL REFERENCES walk(id), key TEXT NOT NULL, mark TEXT NOT NULL,
      PRIMARY KEY (walk_id, key)) STRICT`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE walk_mark');
    await run.query('DROP TABLE walk');
  }
}
