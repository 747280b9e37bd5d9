import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Sessions: tracks made of passes, and the recordings of those passes. */
export class SessionsTable1796000000000 implements MigrationInterface {
  name = 'SessionsTable1796000000000';

  async up(run: QueryRunner): Promise<void> {
    await run.query(`CREATE TABLE session (
      id TEXT PRIMARY KEY,
      name TEXT NOT NULL, song TEXT NOT NULL, document TEXT NOT NULL, version INTEGER NOT NULL,
      created_at TEXT NOT NULL, updated_at TEXT NOT NULL, deleted_at TEXT) STRICT`);
    await run.query(`CREATE TABLE take (
      id TEXT PRIMARY KEY,
      session_id TEXT NOT NULL REFERENCES session(id),
      name TEXT NOT NULL, seconds REAL NOT NULL, bytes BLOB NOT NULL,
      created_at TEXT NOT NULL) STRICT`);
    await run.query(`CREATE INDEX take_by_session ON take (session_id)`);
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('DROP TABLE take');
    await run.query('DROP TABLE session');
  }
}
