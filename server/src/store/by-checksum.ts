import { createHash } from 'node:crypto';
import type { EntitySchema } from 'typeorm';
import type { Database } from '../db/database';
import { notFound } from '../problem';

/** Something that is kept under the checksum of its bytes. */
export interface KeptRow {
  /** SHA-256 of its bytes. */
  id: string;
  bytes: Buffer;
  createdAt: string;
}

/** What is kept, and which versions of which documents name it. */
interface Kind<Row extends KeptRow> {
  name: string;
  table: string;
  entity: EntitySchema<Row>;
  /** Table of the versions that may name one. */
  named: string;
}

/** How long one that no document names is kept: it may have just been sent. */
const LOOSE_MS = 24 * 3_600_000;

export const sumOf = (bytes: Uint8Array): string =>
  createHash('sha256').update(bytes).digest('hex');

/** Bytes that documents name by their checksum: kept once, whoever names them, and cleared when nobody does. */
export abstract class ByChecksum<Row extends KeptRow> {
  protected constructor(
    private readonly database: Database,
    private readonly kind: Kind<Row>,
  ) {}

  async read(id: string): Promise<{ bytes: Buffer }> {
    const row = await this.rows.findOneBy({ id } as never);
    if (!row) throw notFound(this.kind.name, id);
    return { bytes: row.bytes };
  }

  async has(id: string): Promise<boolean> {
    return this.rows.existsBy({ id } as never);
  }

  /** Clears those that no version of a document names. */
  async clear(): Promise<void> {
    const { table, named } = this.kind;
    const before = new Date(Date.now() - LOOSE_MS).toISOString();
    await this.database.write((manager) =>
      manager.query(
        `DELETE FROM ${table} WHERE created_at < ? AND NOT EXISTS (
          SELECT 1 FROM ${named} v WHERE v.document LIKE '%' || ${table}.id || '%')`,
        [before],
      ),
    );
  }

  /** Keeps them once. @returns their checksum */
  protected async keep(bytes: Buffer, more: Omit<Row, keyof KeptRow>): Promise<string> {
    const id = sumOf(bytes);
    const row = { ...more, id, bytes, createdAt: new Date().toISOString() };
    await this.database.write(async (manager) => {
      if (await manager.existsBy(this.kind.entity, { id } as never)) return;
      await manager.insert(this.kind.entity, row as never);
    });
    return id;
  }

  private get rows() {
    return this.database.source.getRepository(this.kind.entity);
  }
}
