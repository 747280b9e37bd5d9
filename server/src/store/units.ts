import { randomUUID } from 'node:crypto';
import { checkUnit, type Unit, unitSchema } from '@hurrel/core';
import equal from 'fast-deep-equal';
import { type EntityManager, IsNull } from 'typeorm';
import type { Database } from '../db/database';
import { UnitEntity, type UnitRow } from '../db/entities';
import { invalid, notFound, Problem } from '../problem';
import type { InstrumentStore } from './instruments';
import type { Expected } from './patches';

/** A unit with what the store knows of it. */
export interface StoredUnit {
  id: string;
  version: number;
  updatedAt: string;
  unit: Unit;
}

/** Units of instruments. A write must know the version that it goes on from. */
export class UnitStore {
  constructor(
    private readonly database: Database,
    private readonly instruments: InstrumentStore,
  ) {}

  async list(instrumentId?: string): Promise<StoredUnit[]> {
    const rows = await this.database.source.getRepository(UnitEntity).find({
      where: { deletedAt: IsNull(), ...(instrumentId === undefined ? {} : { instrumentId }) },
      order: { instrumentId: 'ASC', name: 'ASC', id: 'ASC' },
    });
    return rows.map(stored);
  }

  async get(id: string): Promise<StoredUnit> {
    return stored(await findUnit(this.database.source.manager, id));
  }

  async create(unit: Unit): Promise<StoredUnit> {
    await this.check(unit);
    const now = new Date().toISOString();
    const row: UnitRow = {
      id: randomUUID(),
      ...columns(unit),
      version: 1,
      createdAt: now,
      updatedAt: now,
      deletedAt: null,
    };
    await this.database.write((manager) => manager.insert(UnitEntity, row));
    return stored(row);
  }

  async save(id: string, expected: Expected, unit: Unit): Promise<StoredUnit> {
    await this.check(unit);
    return this.database.write(async (manager) => {
      const current = await currentUnit(manager, id, expected);
      if (current.unit.instrument !== unit.instrument) {
        throw invalid([{ pointer: '/instrument', message: 'A unit stays what it is.' }]);
      }
      if (equal(current.unit, unit)) return current;
      const version = current.version + 1;
      const updatedAt = new Date().toISOString();
      await manager.update(UnitEntity, { id }, { ...columns(unit), version, updatedAt });
      return { id, version, updatedAt, unit };
    });
  }

  async remove(id: string, expected: Expected): Promise<void> {
    await this.database.write(async (manager) => {
      await currentUnit(manager, id, expected);
      await manager.update(UnitEntity, { id }, { deletedAt: new Date().toISOString() });
    });
  }

  private async check(unit: Unit): Promise<void> {
    const instrument = await this.instruments.find(unit.instrument);
    if (!instrument) {
      throw invalid([
        { pointer: '/instrument', message: `There is no instrument "${unit.instrument}".` },
      ]);
    }
    const faults = checkUnit(unit, instrument);
    if (faults.length > 0) throw invalid(faults);
  }
}

const columns = (unit: Unit): Pick<UnitRow, 'instrumentId' | 'name' | 'document'> => ({
  instrumentId: unit.instrument,
  name: unit.name,
  document: JSON.stringify(unit),
});

const stored = (row: UnitRow): StoredUnit => ({
  id: row.id,
  version: row.version,
  updatedAt: row.updatedAt,
  unit: unitSchema.parse(JSON.parse(row.document)),
});

async function findUnit(manager: EntityManager, id: string): Promise<UnitRow> {
  const row = await manager.findOneBy(UnitEntity, { id, deletedAt: IsNull() });
  if (!row) throw notFound('unit', id);
  return row;
}

async function currentUnit(
  manager: EntityManager,
  id: string,
  expected: Expected,
): Promise<StoredUnit> {
  const current = stored(await findUnit(manager, id));
  if (expected !== '*' && expected !== current.version) {
    throw new Problem(
      412,
      'Changed meanwhile',
      `This unit is at version ${current.version} by now, not at ${expected}: read it again before you write.`,
      [{ pointer: '/header/if-match', message: `expected "${current.version}"` }],
    );
  }
  return current;
}
