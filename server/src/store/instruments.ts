import {
  checkInstrument,
  checkUnit,
  type Instrument,
  instrumentSchema,
  outgrown,
  patchSchema,
  schemaFaults,
  unitSchema,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import type { EntityManager } from 'typeorm';
import type { Database } from '../db/database';
import { InstrumentEntity, type InstrumentRow, InstrumentVersionEntity } from '../db/entities';
import { readOrTell } from './unreadable';
import type { Expected } from './document-store';
import { type FieldError, invalid, notFound, Problem } from '../problem';

/** An instrument with what the store knows of it. */
export interface StoredInstrument {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
  instrument: Instrument;
  /** It came with Hurrel: it is copied to be changed. */
  readyMade: boolean;
}

/** Patches that are named when a change does not fit them. */
const NAMED = 5;

export class InstrumentStore {
  /** Newest versions, parsed once each. */
  private readonly parsed = new Map<string, StoredInstrument>();

  /** @param readyMade ids of those that came with Hurrel */
  constructor(
    private readonly database: Database,
    private readonly readyMade: ReadonlySet<string>,
  ) {}

  async list(): Promise<StoredInstrument[]> {
    const { manager } = this.database.source;
    const rows = await manager.find(InstrumentEntity, { order: { id: 'ASC' } });
    const all = await Promise.all(
      rows.map(async (row) => {
        const read = await this.read(manager, row).catch((error: unknown) => error as Error);
        return readOrTell(`instrument "${row.id}"`, () => {
          if (read instanceof Error) throw read;
          return read;
        });
      }),
    );
    return all.filter((one) => one !== undefined);
  }

  async isEmpty(): Promise<boolean> {
    return (await this.database.source.getRepository(InstrumentEntity).count()) === 0;
  }

  async find(id: string): Promise<Instrument | undefined> {
    return (await this.findStored(id))?.instrument;
  }

  async get(id: string): Promise<Instrument> {
    return (await this.getStored(id)).instrument;
  }

  async getStored(id: string): Promise<StoredInstrument> {
    const found = await this.findStored(id);
    if (!found) throw notFound('instrument', id);
    return found;
  }

  /** What is known of the versions, newest first. */
  async versions(id: string): Promise<{ number: number; origin: string; createdAt: string }[]> {
    await this.getStored(id);
    const rows = await this.database.source.manager.find(InstrumentVersionEntity, {
      where: { documentId: id },
      order: { number: 'DESC' },
    });
    return rows.map(({ number, origin, createdAt }) => ({ number, origin, createdAt }));
  }

  async version(id: string, number: number): Promise<StoredInstrument> {
    const newest = await this.getStored(id);
    const row = await this.database.source.manager.findOneBy(InstrumentVersionEntity, {
      documentId: id,
      number,
    });
    if (!row) throw notFound('version of this instrument', String(number));
    const instrument = instrumentSchema.parse(JSON.parse(row.document));
    return { ...newest, version: number, updatedAt: row.createdAt, instrument };
  }

  /** Stores a definition that has been checked as a whole. */
  async add(source: unknown): Promise<StoredInstrument> {
    const instrument = readInstrument(source);
    const { id } = instrument;
    const createdAt = new Date().toISOString();
    await this.database.write(async (manager) => {
      if (await manager.existsBy(InstrumentEntity, { id })) {
        throw new Problem(
          409,
          'Already there',
          `There is an instrument "${id}" already: give this one another id.`,
          [{ pointer: '/id', message: 'used already' }],
        );
      }
      await manager.insert(InstrumentEntity, { id, head: 1, createdAt });
      await insertVersion(manager, instrument, 1, 'created', createdAt);
    });
    return {
      id,
      version: 1,
      createdAt,
      updatedAt: createdAt,
      instrument,
      readyMade: this.readyMade.has(id),
    };
  }

  /**
   * Writes a new version on top of the one that was read. Patches and units stay what they are: a change that one of them
   * would not fit is refused, and named.
   */
  async save(
    id: string,
    expected: Expected,
    source: unknown,
    origin = 'edited',
  ): Promise<StoredInstrument> {
    const instrument = readInstrument(source);
    if (instrument.id !== id)
      throw invalid([{ pointer: '/id', message: 'An instrument keeps its id.' }]);
    if (this.readyMade.has(id)) {
      throw new Problem(
        409,
        'Ready-made',
        'This instrument came with Hurrel and stays as it is: copy it, and change the copy.',
      );
    }
    const updatedAt = new Date().toISOString();
    const saved = await this.database.write(async (manager) => {
      const before = await this.expected(manager, id, expected);
      if (equal(before.instrument, instrument)) return before;
      await refuseOutgrown(manager, before.instrument, instrument);
      const version = before.version + 1;
      await insertVersion(manager, instrument, version, origin, updatedAt);
      await manager.update(InstrumentEntity, { id }, { head: version });
      return { ...before, instrument, version, updatedAt };
    });
    this.parsed.set(id, saved);
    return saved;
  }

  async goBack(id: string, expected: Expected, number: number): Promise<StoredInstrument> {
    const { instrument } = await this.version(id, number);
    return this.save(id, expected, instrument, `version ${number} again`);
  }

  private async findStored(id: string): Promise<StoredInstrument | undefined> {
    const known = this.parsed.get(id);
    if (known) return known;
    const { manager } = this.database.source;
    const row = await manager.findOneBy(InstrumentEntity, { id });
    return row ? this.read(manager, row) : undefined;
  }

  private async expected(
    manager: EntityManager,
    id: string,
    expected: Expected,
  ): Promise<StoredInstrument> {
    const row = await manager.findOneBy(InstrumentEntity, { id });
    if (!row) throw notFound('instrument', id);
    const current = await this.read(manager, row);
    if (expected === '*' || expected === row.head) return current;
    throw new Problem(
      412,
      'Changed meanwhile',
      `Version ${expected} was read, but version ${row.head} is the newest. Read it, and decide what to keep.`,
      [],
      { current },
    );
  }

  private async read(
    manager: EntityManager,
    { id, head, createdAt }: InstrumentRow,
  ): Promise<StoredInstrument> {
    const known = this.parsed.get(id);
    if (known?.version === head) return known;
    const row = await manager.findOneBy(InstrumentVersionEntity, { documentId: id, number: head });
    if (!row) throw notFound('version of this instrument', String(head));
    const stored = {
      id,
      version: head,
      createdAt,
      updatedAt: row.createdAt,
      instrument: instrumentSchema.parse(JSON.parse(row.document)),
      readyMade: this.readyMade.has(id),
    };
    this.parsed.set(id, stored);
    return stored;
  }
}

function insertVersion(
  manager: EntityManager,
  instrument: Instrument,
  number: number,
  origin: string,
  createdAt: string,
) {
  const document = JSON.stringify(instrument);
  return manager.insert(InstrumentVersionEntity, {
    documentId: instrument.id,
    number,
    document,
    origin,
    createdAt,
  });
}

/** Refuses a change that a patch or a unit, removed ones too, would not stay the same with. */
async function refuseOutgrown(
  manager: EntityManager,
  before: Instrument,
  after: Instrument,
): Promise<void> {
  const told: string[] = [];
  for (const kind of ['patch', 'unit'] as const) {
    const rows: { document: string; name: string }[] = await manager.query(
      `SELECT v.document AS document, d.name AS name FROM ${kind} d
        JOIN ${kind}_version v ON v.${kind}_id = d.id AND v.number = d.head
        WHERE d.instrument_id = ? ORDER BY d.name`,
      [before.id],
    );
    for (const { document, name } of rows) {
      const source: unknown = JSON.parse(document);
      const lost =
        kind === 'patch'
          ? outgrown(before, after, patchSchema.parse(source))
          : checkUnit(unitSchema.parse(source), after).map((fault) => fault.message);
      if (lost.length > 0) told.push(`${name}: ${lost.slice(0, 3).join(', ')}`);
    }
  }
  if (told.length === 0) return;
  const more = told.length > NAMED ? ` And ${told.length - NAMED} more.` : '';
  throw new Problem(
    409,
    'Patches would change',
    `What was recorded would not stay what it is. ${told.slice(0, NAMED).join('. ')}.${more} Make a copy of the instrument, and change that.`,
  );
}

/** An instrument read from a document, or a problem that names every fault of it. */
export function readInstrument(source: unknown): Instrument {
  const parsed = instrumentSchema.safeParse(source);
  if (!parsed.success) throw invalid(schemaFaults(parsed.error));
  const faults = checkInstrument(parsed.data);
  if (faults.length > 0) throw invalid(faults);
  return parsed.data;
}

/** Refuses a document of an instrument that is not there, or that does not fit its panel. */
export async function fitting<D extends { instrument: string }>(
  instruments: InstrumentStore,
  document: D,
  check: (document: D, instrument: Instrument) => FieldError[],
): Promise<void> {
  const instrument = await instruments.find(document.instrument);
  if (!instrument) {
    throw invalid([
      { pointer: '/instrument', message: `There is no instrument "${document.instrument}".` },
    ]);
  }
  const faults = check(document, instrument);
  if (faults.length > 0) throw invalid(faults);
}
