import { randomUUID } from 'node:crypto';
import { decodeWav, type Session, sessionSchema, WavError } from '@hurrel/core';
import equal from 'fast-deep-equal';
import { type EntityManager, IsNull } from 'typeorm';
import type { Database } from '../db/database';
import { SessionEntity, type SessionRow, TakeEntity } from '../db/entities';
import { invalid, notFound, Problem } from '../problem';
import type { Expected } from './patches';

/** A session with what the store knows of it. */
export interface StoredSession {
  id: string;
  version: number;
  updatedAt: string;
  session: Session;
}

/** A recording that is stored. */
export interface StoredTake {
  id: string;
  name: string;
  seconds: number;
}

/** Sessions and their takes. A write must know the version that it goes on from. */
export class SessionStore {
  constructor(private readonly database: Database) {}

  async list(): Promise<StoredSession[]> {
    const rows = await this.database.source.getRepository(SessionEntity).find({
      where: { deletedAt: IsNull() },
      order: { song: 'ASC', name: 'ASC', id: 'ASC' },
    });
    return rows.map(stored);
  }

  async get(id: string): Promise<StoredSession> {
    return stored(await findSession(this.database.source.manager, id));
  }

  async create(session: Session): Promise<StoredSession> {
    const takes = session.passes.findIndex((p) => p.take !== undefined);
    if (takes >= 0) {
      throw invalid([
        { pointer: `/passes/${takes}/take`, message: 'A new session has no takes yet.' },
      ]);
    }
    const now = new Date().toISOString();
    const row: SessionRow = {
      id: randomUUID(),
      ...columns(session),
      version: 1,
      createdAt: now,
      updatedAt: now,
      deletedAt: null,
    };
    await this.database.write((manager) => manager.insert(SessionEntity, row));
    return stored(row);
  }

  async save(id: string, expected: Expected, session: Session): Promise<StoredSession> {
    return this.database.write(async (manager) => {
      const current = await currentSession(manager, id, expected);
      const there = new Set(
        (await manager.find(TakeEntity, { where: { sessionId: id }, select: { id: true } })).map(
          (t) => t.id,
        ),
      );
      session.passes.forEach(({ take }, i) => {
        if (take === undefined || there.has(take)) return;
        throw invalid([
          { pointer: `/passes/${i}/take`, message: 'There is no such take: record or import it.' },
        ]);
      });
      if (equal(current.session, session)) return current;
      const version = current.version + 1;
      const updatedAt = new Date().toISOString();
      await manager.update(SessionEntity, { id }, { ...columns(session), version, updatedAt });
      return { id, version, updatedAt, session };
    });
  }

  async remove(id: string, expected: Expected): Promise<void> {
    await this.database.write(async (manager) => {
      await currentSession(manager, id, expected);
      await manager.update(SessionEntity, { id }, { deletedAt: new Date().toISOString() });
    });
  }

  /** Stores a recording, once it has been read as a whole. */
  async addTake(sessionId: string, name: string, bytes: Uint8Array): Promise<StoredTake> {
    let seconds: number;
    try {
      const { channels, sampleRate } = decodeWav(bytes);
      seconds = channels[0]!.length / sampleRate;
    } catch (error) {
      if (error instanceof WavError) throw invalid([{ pointer: '', message: error.message }]);
      throw error;
    }
    const take = { id: randomUUID(), name, seconds };
    await this.database.write(async (manager) => {
      await findSession(manager, sessionId);
      const createdAt = new Date().toISOString();
      await manager.insert(TakeEntity, {
        ...take,
        sessionId,
        bytes: Buffer.from(bytes),
        createdAt,
      });
    });
    return take;
  }

  async takes(sessionId: string): Promise<StoredTake[]> {
    await findSession(this.database.source.manager, sessionId);
    return this.database.source.getRepository(TakeEntity).find({
      where: { sessionId },
      select: { id: true, name: true, seconds: true },
      order: { createdAt: 'ASC' },
    });
  }

  async take(sessionId: string, id: string): Promise<Uint8Array> {
    const row = await this.database.source.getRepository(TakeEntity).findOneBy({ id, sessionId });
    if (!row) throw notFound('take', id);
    return row.bytes;
  }
}

const columns = (session: Session): Pick<SessionRow, 'name' | 'song' | 'document'> => ({
  name: session.name,
  song: session.song,
  document: JSON.stringify(session),
});

const stored = (row: SessionRow): StoredSession => ({
  id: row.id,
  version: row.version,
  updatedAt: row.updatedAt,
  session: sessionSchema.parse(JSON.parse(row.document)),
});

async function findSession(manager: EntityManager, id: string): Promise<SessionRow> {
  const row = await manager.findOneBy(SessionEntity, { id, deletedAt: IsNull() });
  if (!row) throw notFound('session', id);
  return row;
}

async function currentSession(
  manager: EntityManager,
  id: string,
  expected: Expected,
): Promise<StoredSession> {
  const current = stored(await findSession(manager, id));
  if (expected !== '*' && expected !== current.version) {
    throw new Problem(
      412,
      'Changed meanwhile',
      `This session is at version ${current.version} by now, not at ${expected}: read it again before you write.`,
      [{ pointer: '/header/if-match', message: `expected "${current.version}"` }],
    );
  }
  return current;
}
