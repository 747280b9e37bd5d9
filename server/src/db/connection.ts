import type { DataSource } from 'typeorm';

/** What is used of better-sqlite3's connection, of which each data source keeps one. */
export interface Connection {
  /** What SQLite itself says, whatever anybody believes of it. */
  readonly inTransaction: boolean;
  exec(sql: string): unknown;
  pragma(text: string, options?: { simple?: boolean }): unknown;
  /** SQLite's online backup: the file as it is at one moment, while it goes on being used. */
  backup(file: string): Promise<unknown>;
}

export const connectionOf = (source: DataSource): Connection =>
  (source.driver as unknown as { databaseConnection: Connection }).databaseConnection;
