import { randomUUID } from 'node:crypto';
import {
  joinMarks,
  type Marks,
  newsOf,
  timedIn,
  type Timed,
  type WalkBefore,
  type WalkKind,
  type WalkMark,
} from '@hurrel/core';
import { In, IsNull } from 'typeorm';
import type { Database } from '../db/database';
import { WalkEntity, WalkMarkEntity, type WalkRow } from '../db/entities';
import { notFound } from '../problem';
import type { EveningStore } from './evenings';
import { Listeners } from './listeners';

export interface Walk {
  id: string;
  evening: string;
  kind: WalkKind;
  before: WalkBefore;
  createdAt: string;
  endedAt: string | null;
}

/** Walks through sets. What is said in them comes together from any device, whenever it arrives. */
export class WalkStore {
  /** Hear what is news in a walk. */
  readonly told = new Listeners<Marks>();

  constructor(
    private readonly database: Database,
    private readonly evenings: EveningStore,
  ) {}

  async get(id: string): Promise<Walk> {
    const row = await this.database.source.getRepository(WalkEntity).findOneBy({ id });
    if (!row) throw notFound('walk', id);
    return walkOf(row);
  }

  /** Those of a set, the latest first. */
  async of(evening: string): Promise<Walk[]> {
    const rows = await this.database.source
      .getRepository(WalkEntity)
      .find({ where: { eveningId: evening }, order: { createdAt: 'DESC', id: 'ASC' } });
    return rows.map(walkOf);
  }

  /** Begins a walk; of those on stage one goes on until it is ended, whoever begins it. */
  async begin(evening: string, kind: WalkKind, before: WalkBefore): Promise<Walk> {
    await this.evenings.get(evening);
    return this.database.write(async (manager) => {
      const walks = manager.getRepository(WalkEntity);
      const goesOn =
        kind === 'stage' &&
        (await walks.findOneBy({ eveningId: evening, kind, endedAt: IsNull() }));
      if (goesOn) return walkOf(goesOn);
      const row: WalkRow = {
        id: randomUUID(),
        eveningId: evening,
        kind,
        before: JSON.stringify(before),
        createdAt: new Date().toISOString(),
        endedAt: null,
      };
      await walks.insert(row);
      return walkOf(row);
    });
  }

  async end(id: string): Promise<Walk> {
    const walk = await this.get(id);
    if (walk.endedAt !== null) return walk;
    const endedAt = new Date().toISOString();
    await this.database.write((manager) => manager.update(WalkEntity, { id }, { endedAt }));
    return { ...walk, endedAt };
  }

  async marks(id: string): Promise<Marks> {
    const rows = await this.database.source.getRepository(WalkMarkEntity).findBy({ walkId: id });
    return marksOf(rows);
  }

  /** Takes what was said somewhere. @returns how the same things stand now, from wherever it was said later */
  async join(id: string, said: Marks): Promise<Marks> {
    await this.get(id);
    const keys = Object.keys(said);
    const [stands, news] = await this.database.write(async (manager) => {
      const rows = await manager.findBy(WalkMarkEntity, { walkId: id, key: In(keys) });
      const known = marksOf(rows);
      const news = newsOf(known, said);
      const changed = Object.entries(news).map(([key, mark]) => ({
        walkId: id,
        key,
        mark: JSON.stringify(mark),
      }));
      if (changed.length > 0) await manager.upsert(WalkMarkEntity, changed, ['walkId', 'key']);
      return [joinMarks(known, said), news];
    });
    if (Object.keys(news).length > 0) this.told.say(id, news);
    return stands;
  }

  /** Movements whose time was taken in any walk of a set. */
  async timed(evening: string): Promise<Timed[]> {
    const walks = await this.of(evening);
    return timedIn(await Promise.all(walks.map(({ id }) => this.marks(id))));
  }
}

const walkOf = ({ eveningId, before, kind, ...row }: WalkRow): Walk => ({
  id: row.id,
  evening: eveningId,
  kind: kind as WalkKind,
  before: JSON.parse(before) as WalkBefore,
  createdAt: row.createdAt,
  endedAt: row.endedAt,
});

const marksOf = (rows: readonly { key: string; mark: string }[]): Marks =>
  Object.fromEntries(rows.map(({ key, mark }) => [key, JSON.parse(mark) as WalkMark]));
