import { checkInstrument, type Instrument, instrumentSchema, schemaFaults } from '@hurrel/core';
import type { Database } from '../db/database';
import { InstrumentEntity, type InstrumentRow } from '../db/entities';
import { readOrTell } from './unreadable';
import { type FieldError, invalid, notFound, Problem } from '../problem';

export class InstrumentStore {
  /** Definitions never change once stored, so they are parsed once. */
  private readonly parsed = new Map<string, Instrument>();

  constructor(private readonly database: Database) {}

  async list(): Promise<Instrument[]> {
    const rows = await this.database.source
      .getRepository(InstrumentEntity)
      .find({ order: { id: 'ASC' } });
    return rows.flatMap((row) => readOrTell(`instrument "${row.id}"`, () => this.read(row)) ?? []);
  }

  async isEmpty(): Promise<boolean> {
    return (await this.database.source.getRepository(InstrumentEntity).count()) === 0;
  }

  async find(id: string): Promise<Instrument | undefined> {
    const known = this.parsed.get(id);
    if (known) return known;
    const row = await this.database.source.getRepository(InstrumentEntity).findOneBy({ id });
    return row ? this.read(row) : undefined;
  }

  private read({ id, document }: InstrumentRow): Instrument {
    const known = this.parsed.get(id);
    if (known) return known;
    const instrument = instrumentSchema.parse(JSON.parse(document));
    this.parsed.set(id, instrument);
    return instrument;
  }

  async get(id: string): Promise<Instrument> {
    const found = await this.find(id);
    if (!found) throw notFound('instrument', id);
    return found;
  }

  /** Stores a definition that has been checked as a whole. */
  async add(source: unknown): Promise<Instrument> {
    const instrument = readInstrument(source);
    await this.database.write(async (manager) => {
      const rows = manager.getRepository(InstrumentEntity);
      if (await rows.existsBy({ id: instrument.id })) {
        throw new Problem(
          409,
          'Already there',
          `There is an instrument "${instrument.id}" already: give this one another id.`,
          [{ pointer: '/id', message: 'used already' }],
        );
      }
      await rows.insert({
        id: instrument.id,
        document: JSON.stringify(instrument),
        createdAt: new Date().toISOString(),
      });
    });
    return instrument;
  }
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
