import type { DataSource } from 'typeorm';

/** What is used of better-sqlite3's connection, of which each data source keeps one. */
export interface Connection {
  /** What SQLite itself says, whatever anybody believes of it. */
  readonly inTransaction: boolean;
  exec(sql: string): unknown;
  pragma(text: string, options?: { simple?: boolean }): unknown;
  /** SQLite's online backup: the file as it is at one moment, while it goes on being used. */
  backup(file: string): Promise<unknown>;
  close(): void;
}

export const connectionOf = (source: DataSource): Connection =>
  (source.driver as unknown as { databaseConnection: Connection }).databaseConnection;

/** What SQLite has refused, with its code. */
export class SqlError extends Error {
  constructor(
    message: string,
    readonly code: string,
    cause: unknown,
  ) {
    super(message, { cause });
  }
}

/** Runs a statement. @throws SqlError whatever class of error the driver makes */
export function execute(connection: Pick<Connection, 'exec'>, sql: string): void {
  try {
    connection.exec(sql);
  } catch (error) {
    const { message, code } = error as { message: string; code?: string };
    throw new SqlError(message, code ?? '', error);
  }
}
