import { randomUUID } from 'node:crypto';
import type { Database } from '../db/database';
import { TakeEntity } from '../db/entities';
import { invalid, notFound } from '../problem';
import type { Work } from '../work/work';
import type { SessionStore } from './sessions';

/** A recording that is stored. */
export interface StoredTake {
  id: string;
  name: string;
  seconds: number;
}

/** Recordings of passes: WAV files, as they were given. */
export class TakeStore {
  constructor(
    private readonly database: Database,
    private readonly sessions: SessionStore,
    private readonly work: Pick<Work, 'do'>,
  ) {}

  /** Stores a recording, once it has been read as a whole. */
  async add(
    sessionId: string,
    name: string,
    bytes: Uint8Array,
    gone?: AbortSignal,
  ): Promise<StoredTake> {
    await this.sessions.get(sessionId);
    const facts = await this.work.do('take', bytes, gone);
    if ('refused' in facts) throw invalid([{ pointer: '', message: facts.refused }]);
    const take = { id: randomUUID(), name, seconds: facts.seconds };
    const createdAt = new Date().toISOString();
    await this.database.write((manager) =>
      manager.insert(TakeEntity, {
        ...take,
        sessionId,
        bytes: Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength),
        createdAt,
      }),
    );
    return take;
  }

  async of(sessionId: string): Promise<StoredTake[]> {
    await this.sessions.get(sessionId);
    return this.database.source.getRepository(TakeEntity).find({
      where: { sessionId },
      select: { id: true, name: true, seconds: true },
      order: { createdAt: 'ASC' },
    });
  }

  async bytes(sessionId: string, id: string): Promise<Uint8Array> {
    const row = await this.database.source.getRepository(TakeEntity).findOneBy({ id, sessionId });
    if (!row) throw notFound('take', id);
    return row.bytes;
  }
}
