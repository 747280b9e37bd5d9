import type { DataSource, EntityManager } from 'typeorm';
import { type Connection, connectionOf, execute } from './connection';

/**
 * Runs a change in a transaction of its own: when this resolves it is committed. What counts is what SQLite says: several
 * errors (a full disk, an I/O error) make it roll back by itself, after which a ROLLBACK fails and whoever counts
 * transactions by hand is wrong ever after, writing into one that never ends.
 */
export async function inTransaction<T>(
  source: DataSource,
  change: (manager: EntityManager) => Promise<T>,
): Promise<T> {
  const connection = connectionOf(source);
  // Whatever an earlier fault has left behind was never acknowledged.
  rollBack(connection);
  execute(connection, 'BEGIN IMMEDIATE');
  try {
    const result = await change(source.manager);
    execute(connection, 'COMMIT');
    return result;
  } catch (error) {
    rollBack(connection);
    throw error;
  }
}

function rollBack(connection: Pick<Connection, 'inTransaction' | 'exec'>): void {
  if (connection.inTransaction) execute(connection, 'ROLLBACK');
}
