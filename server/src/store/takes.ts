import { randomUUID } from 'node:crypto';
import type { Database } from '../db/database';
import { TakeChunkEntity, TakeEntity } from '../db/entities';
import { notFound, Problem } from '../problem';
import { pieces } from './pieces';
import type { SessionStore } from './sessions';
import { TakeCheck } from './take-check';

/** A recording that is stored. */
export interface StoredTake {
  id: string;
  name: string;
  seconds: number;
  /** Bytes. */
  size: number;
}

/** Bytes of a piece: what is held in memory, and what one write takes. */
const PIECE = 1024 * 1024;

/** Recordings of passes: WAV files, as they were given. */
export class TakeStore {
  constructor(
    private readonly database: Database,
    private readonly sessions: SessionStore,
  ) {}

  /** Stores a recording piece by piece as it comes; what turns out to be no WAV, or breaks off, leaves nothing. */
  async add(sessionId: string, name: string, body: AsyncIterable<Uint8Array>): Promise<StoredTake> {
    await this.sessions.get(sessionId);
    const id = randomUUID();
    const check = new TakeCheck();
    try {
      let number = 0;
      for await (const bytes of pieces(body, PIECE)) {
        check.piece(bytes);
        const row = { takeId: id, number: number++, bytes };
        await this.database.write((manager) => manager.insert(TakeChunkEntity, row));
      }
      const { seconds, size } = check.end();
      const createdAt = new Date().toISOString();
      const take = { id, name, seconds, size };
      await this.database.write((manager) =>
        manager.insert(TakeEntity, { ...take, sessionId, createdAt }),
      );
      return take;
    } catch (error) {
      await this.database.write((manager) => manager.delete(TakeChunkEntity, { takeId: id }));
      throw error;
    }
  }

  async of(sessionId: string): Promise<StoredTake[]> {
    await this.sessions.get(sessionId);
    return this.database.source.getRepository(TakeEntity).find({
      where: { sessionId },
      select: { id: true, name: true, seconds: true, size: true },
      order: { createdAt: 'ASC' },
    });
  }

  /** Its length in bytes, and its pieces one after another. */
  async read(
    sessionId: string,
    id: string,
  ): Promise<{ size: number; pieces: AsyncIterable<Uint8Array> }> {
    const row = await this.database.source.getRepository(TakeEntity).findOneBy({ id, sessionId });
    if (!row) throw notFound('take', id);
    return { size: row.size, pieces: this.pieces(id) };
  }

  /**
   * Removes a recording for good, and gives its room back to the disk. One that a pass plays is refused; a version of before
   * that plays it cannot be gone back to any more.
   */
  async remove(sessionId: string, id: string): Promise<void> {
    await this.database.write(async (manager) => {
      if (!(await manager.existsBy(TakeEntity, { id, sessionId }))) throw notFound('take', id);
      const { session } = await this.sessions.get(sessionId);
      const pass = session.passes.find((p) => p.take === id);
      if (pass) {
        throw new Problem(
          409,
          'Still played',
          `${pass.name} plays this take: take it away there first.`,
        );
      }
      await manager.delete(TakeEntity, { id });
      await manager.delete(TakeChunkEntity, { takeId: id });
    });
    await this.database.shrink();
  }

  /** Clears pieces of recordings that were broken off when the server ended. */
  async clear(): Promise<void> {
    await this.database.write((manager) =>
      manager.query('DELETE FROM take_chunk WHERE take_id NOT IN (SELECT id FROM take)'),
    );
  }

  private async *pieces(takeId: string): AsyncIterable<Uint8Array> {
    for (let number = 0; ; number++) {
      const row = await this.database.source
        .getRepository(TakeChunkEntity)
        .findOneBy({ takeId, number });
      if (!row) return;
      yield row.bytes;
    }
  }
}
