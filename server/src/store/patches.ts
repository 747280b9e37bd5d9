import { randomUUID } from 'node:crypto';
import { checkPatch, type Patch, patchSchema } from '@hurrel/core';
import equal from 'fast-deep-equal';
import { Brackets, type EntityManager, IsNull } from 'typeorm';
import type { Database } from '../db/database';
import { PatchEntity, type PatchRow, VersionEntity, type VersionRow } from '../db/entities';
import { invalid, notFound, Problem } from '../problem';
import type { InstrumentStore } from './instruments';

/** A patch with what the store knows of it. */
export interface StoredPatch {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  patch: Patch;
}

export interface PatchFilter {
  song?: string | undefined;
  role?: string | undefined;
  instrument?: string | undefined;
  q?: string | undefined;
  page: number;
  size: number;
}

/** Version that a writer has read: a number, or `*` for whatever is newest. */
export type Expected = number | '*';

export class PatchStore {
  constructor(
    private readonly database: Database,
    private readonly instruments: InstrumentStore,
  ) {}

  async list(filter: PatchFilter): Promise<{ items: PatchRow[]; total: number }> {
    const query = this.database.source
      .getRepository(PatchEntity)
      .createQueryBuilder('p')
      .where('p.deletedAt IS NULL');
    if (filter.song !== undefined) query.andWhere('p.song = :song', { song: filter.song });
    if (filter.role !== undefined) query.andWhere('p.role = :role', { role: filter.role });
    if (filter.instrument !== undefined) {
      query.andWhere('p.instrumentId = :instrument', { instrument: filter.instrument });
    }
    (filter.q ?? '')
      .split(/\s+/)
      .filter(Boolean)
      .forEach((word, i) => {
        const like = `%${word.replace(/[\\%_]/g, '\\$&')}%`;
        const fields = ['name', 'song', 'role', 'about'];
        query.andWhere(
          new Brackets((any) =>
            fields.forEach((f) =>
              any.orWhere(`p.${f} LIKE :q${i} ESCAPE '\\'`, { [`q${i}`]: like }),
            ),
          ),
        );
      });
    const [items, total] = await query
      .orderBy('p.song')
      .addOrderBy('p.name')
      .addOrderBy('p.id')
      .skip((filter.page - 1) * filter.size)
      .take(filter.size)
      .getManyAndCount();
    return { items, total };
  }

  async get(id: string): Promise<StoredPatch> {
    const row = await findRow(this.database.source.manager, id);
    return stored(row, await findVersion(this.database.source.manager, id, row.head));
  }

  async create(patch: Patch, origin = 'created'): Promise<StoredPatch> {
    await this.check(patch);
    const id = randomUUID();
    const now = new Date().toISOString();
    await this.database.write(async (manager) => {
      await manager.insert(PatchEntity, {
        id,
        ...listed(patch),
        head: 1,
        createdAt: now,
        updatedAt: now,
        deletedAt: null,
      });
      await insertVersion(manager, id, 1, patch, origin, now);
    });
    return { id, version: 1, createdAt: now, updatedAt: now, patch };
  }

  /** Writes a new version on top of the one that was read; a patch that has not changed gets none. */
  async save(
    id: string,
    expected: Expected,
    patch: Patch,
    origin = 'edited',
  ): Promise<StoredPatch> {
    await this.check(patch);
    return this.database.write(async (manager) => {
      const current = await this.current(manager, id, expected);
      if (current.patch.instrument !== patch.instrument) {
        throw invalid([{ pointer: '/instrument', message: 'A patch stays on its instrument.' }]);
      }
      if (equal(current.patch, patch)) return current;
      const now = new Date().toISOString();
      const version = current.version + 1;
      await insertVersion(manager, id, version, patch, origin, now);
      await manager.update(
        PatchEntity,
        { id },
        { ...listed(patch), head: version, updatedAt: now },
      );
      return { ...current, version, updatedAt: now, patch };
    });
  }

  /** An old version once more, as the newest. */
  async goBack(id: string, expected: Expected, number: number): Promise<StoredPatch> {
    const old = await this.version(id, number);
    return this.save(id, expected, old.patch, `version ${number} again`);
  }

  async remove(id: string, expected: Expected): Promise<void> {
    await this.database.write(async (manager) => {
      await this.current(manager, id, expected);
      await manager.update(PatchEntity, { id }, { deletedAt: new Date().toISOString() });
    });
  }

  /** Takes a removal back. */
  async restore(id: string): Promise<StoredPatch> {
    await this.database.write(async (manager) => {
      const row = await manager.findOneBy(PatchEntity, { id });
      if (!row) throw notFound('patch', id);
      await manager.update(PatchEntity, { id }, { deletedAt: null });
    });
    return this.get(id);
  }

  async versions(
    id: string,
    page: number,
    size: number,
  ): Promise<{ items: VersionRow[]; total: number }> {
    await findRow(this.database.source.manager, id);
    const [items, total] = await this.database.source.getRepository(VersionEntity).findAndCount({
      where: { patchId: id },
      order: { number: 'DESC' },
      skip: (page - 1) * size,
      take: size,
    });
    return { items, total };
  }

  async version(id: string, number: number): Promise<StoredPatch> {
    const row = await findRow(this.database.source.manager, id);
    return stored(row, await findVersion(this.database.source.manager, id, number));
  }

  private async check(patch: Patch): Promise<void> {
    const instrument = await this.instruments.find(patch.instrument);
    if (!instrument) {
      throw invalid([
        { pointer: '/instrument', message: `There is no instrument "${patch.instrument}".` },
      ]);
    }
    const faults = checkPatch(patch, instrument);
    if (faults.length > 0) throw invalid(faults);
  }

  private async current(
    manager: EntityManager,
    id: string,
    expected: Expected,
  ): Promise<StoredPatch> {
    const row = await findRow(manager, id);
    const current = stored(row, await findVersion(manager, id, row.head));
    if (expected !== '*' && expected !== row.head) {
      throw new Problem(
        412,
        'Changed meanwhile',
        `Version ${expected} was read, but version ${row.head} is the newest. Read it, and decide what to keep.`,
        [],
        { current },
      );
    }
    return current;
  }
}

async function findRow(manager: EntityManager, id: string): Promise<PatchRow> {
  const row = await manager.findOneBy(PatchEntity, { id, deletedAt: IsNull() });
  if (!row) throw notFound('patch', id);
  return row;
}

async function findVersion(
  manager: EntityManager,
  id: string,
  number: number,
): Promise<VersionRow> {
  const row = await manager.findOneBy(VersionEntity, { patchId: id, number });
  if (!row) throw notFound(`version of this patch`, String(number));
  return row;
}

const stored = (row: PatchRow, version: VersionRow): StoredPatch => ({
  id: row.id,
  version: version.number,
  createdAt: row.createdAt,
  updatedAt: version.createdAt,
  patch: patchSchema.parse(JSON.parse(version.document)),
});

const listed = (
  patch: Patch,
): Pick<PatchRow, 'instrumentId' | 'name' | 'song' | 'role' | 'about' | 'recorded'> => ({
  instrumentId: patch.instrument,
  name: patch.name,
  song: patch.song,
  role: patch.role,
  about: patch.about,
  recorded: Object.keys(patch.settings).length,
});

const insertVersion = async (
  manager: EntityManager,
  patchId: string,
  number: number,
  patch: Patch,
  origin: string,
  createdAt: string,
): Promise<void> => {
  await manager.insert(VersionEntity, {
    patchId,
    number,
    document: JSON.stringify(patch),
    origin,
    createdAt,
  });
};
