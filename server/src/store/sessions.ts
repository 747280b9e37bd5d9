import { type Session, sessionSchema } from '@hurrel/core';
import type { EntityManager } from 'typeorm';
import type { Database } from '../db/database';
import {
  type ListedSession,
  SessionEntity,
  SessionVersionEntity,
  TakeEntity,
} from '../db/entities';
import { invalid } from '../problem';
import { DocumentStore } from './document-store';

/** Sessions: tracks made of passes. */
export class SessionStore extends DocumentStore<'session', Session, ListedSession> {
  constructor(database: Database) {
    super(database, {
      name: 'session',
      heads: SessionEntity,
      versions: SessionVersionEntity,
      parse: (source) => sessionSchema.parse(source),
      listed: (session) => ({ name: session.name, song: session.song }),
      order: ['song', 'name'],
      checkOwn: refuseStrangeTakes,
    });
  }
}

/** A pass may name only takes that were recorded for its session. */
async function refuseStrangeTakes(
  manager: EntityManager,
  session: Session,
  sessionId?: string,
): Promise<void> {
  const named = session.passes.flatMap(({ take }, i) => (take === undefined ? [] : [{ take, i }]));
  if (named.length === 0) return;
  const rows =
    sessionId === undefined
      ? []
      : await manager.find(TakeEntity, { where: { sessionId }, select: { id: true } });
  const there = new Set(rows.map((row) => row.id));
  const strange = named.find(({ take }) => !there.has(take));
  if (!strange) return;
  const message =
    sessionId === undefined
      ? 'A new session has no takes yet.'
      : 'There is no such take: record or import it.';
  throw invalid([{ pointer: `/passes/${strange.i}/take`, message }]);
}
