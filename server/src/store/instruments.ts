import {
  carryOver,
  checkInstrument,
  editionOf,
  type Instrument,
  instrumentSchema,
  keepsMeaning,
  type Patch,
  schemaFaults,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { IsNull, LessThanOrEqual, type ObjectLiteral } from 'typeorm';
import type { Database } from '../db/database';
import type { HeadRow, VersionRow } from '../db/document-entities';
import {
  type EditionRow,
  InstrumentEntity,
  InstrumentVersionEntity,
  type ListedInstrument,
  PatchEntity,
  UnitEntity,
} from '../db/entities';
import { type FieldError, invalid, notFound, Problem } from '../problem';
import { DocumentStore, type Expected, type Stored } from './document-store';
import { readOrTell } from './unreadable';

/** Descriptions that are kept in memory once they have been read. */
const MOST_READ = 64;
/** Documents that are named when something stands in the way. */
const NAMED = 5;

type StoredInstrument = Stored<'instrument', Instrument>;

/** An instrument as it is listed. */
export interface InstrumentItem extends StoredInstrument {
  /** Since which version everything recorded means the same. */
  since: number;
  archived: boolean;
}

/**
 * Instruments: documents whose ids are their own, and whose versions patches stand on. What is read of a version is kept:
 * versions never change.
 */
export class InstrumentStore extends DocumentStore<'instrument', Instrument, ListedInstrument> {
  private readonly known = new Map<string, { text: string; instrument: Instrument }>();

  /** @param readyMade ids of those that came with Hurrel */
  constructor(
    database: Database,
    readonly readyMade: ReadonlySet<string>,
  ) {
    super(database, {
      name: 'instrument',
      heads: InstrumentEntity as never,
      versions: InstrumentVersionEntity as never,
      parse: (source) => instrumentSchema.parse(source),
      listed: ({ name, maker }) => ({ name, maker }),
      order: ['maker', 'name'],
      fixed: { id: 'An instrument keeps its id.' },
      idOf: ({ id }) => id,
      marks: (instrument, number, before) => ({
        since:
          before && keepsMeaning(this.read(before), instrument)
            ? (before as EditionRow).since
            : number,
      }),
      checkOwn: async (manager, { id }, of) => {
        if (of !== undefined || !(await manager.existsBy(InstrumentEntity, { id }))) return;
        throw new Problem(
          409,
          'Already there',
          `There is an instrument "${id}" already: give this one another id.`,
          [{ pointer: '/id', message: 'used already' }],
        );
      },
    });
  }

  /** All there are, those put away too, with their newest versions. */
  async all(): Promise<InstrumentItem[]> {
    const { manager } = this.database.source;
    const rows = await manager.find<ObjectLiteral>(InstrumentEntity, { order: { id: 'ASC' } });
    const there = (rows as (HeadRow & { archivedAt: string | null })[]).filter(
      (row) => row.deletedAt === null,
    );
    const read = await Promise.all(
      there.map(async (row) => {
        const version = await this.findVersion(manager, row.id, row.head);
        return readOrTell(`instrument "${row.id}"`, () => ({
          ...this.stored(row, version),
          since: (version as EditionRow).since,
          archived: row.archivedAt !== null,
        }));
      }),
    );
    return read.filter((one) => one !== undefined);
  }

  async isEmpty(): Promise<boolean> {
    return (await this.database.source.getRepository(InstrumentEntity).count()) === 0;
  }

  /** The newest description; undefined when there is no such instrument, or it was removed. */
  async find(id: string): Promise<Instrument | undefined> {
    const { manager } = this.database.source;
    const row = await manager.findOneBy(InstrumentEntity, { id });
    if (!row || row.deletedAt !== null) return undefined;
    return this.read(await this.findVersion(manager, id, row.head));
  }

  /**
   * The description that a patch stands on: the newest in which everything recorded means what it did in that edition. Of
   * instruments that were removed, too: what was recorded on them can be taken back.
   */
  async of({ instrument, edition }: Pick<Patch, 'instrument' | 'edition'>): Promise<Instrument> {
    const found = await this.findOf({ instrument, edition });
    if (!found) throw notFound('instrument', instrument);
    return found;
  }

  /** The same; undefined when there is no such instrument, or no such version of it. */
  async findOf({
    instrument,
    edition,
  }: Pick<Patch, 'instrument' | 'edition'>): Promise<Instrument | undefined> {
    const found = await this.findEdition(instrument, editionOf({ edition }));
    return found && this.read(found);
  }

  /** A patch as it stands on the description of another one of the same instrument. */
  async onto(patch: Patch, other: Patch): Promise<Patch> {
    const [was, now] = [await this.of(patch), await this.of(other)];
    return was === now ? patch : carryOver(was, now, patch, editionOf(other)).patch;
  }

  private async findEdition(id: string, edition: number): Promise<VersionRow | undefined> {
    const found = await this.database.source.manager.findOne(InstrumentVersionEntity, {
      where: { documentId: id, since: LessThanOrEqual(edition) },
      order: { number: 'DESC' },
    });
    return found && found.number >= edition ? found : undefined;
  }

  /** Every description that means something else than the one before, the newest of each, newest first. */
  async meanings(id: string): Promise<Instrument[]> {
    const rows = await this.database.source.manager.query<{ number: number }[]>(
      `SELECT max(number) AS number FROM instrument_version WHERE instrument_id = ?
        GROUP BY since ORDER BY number DESC`,
      [id],
    );
    const { manager } = this.database.source;
    return Promise.all(
      rows.map(async ({ number }) => this.read(await this.findVersion(manager, id, number))),
    );
  }

  /** The newest version's number, and since which one everything recorded means the same. */
  async standing(id: string): Promise<{ version: number; since: number }> {
    const { manager } = this.database.source;
    const { head } = await this.findHead(manager, id);
    const version = (await this.findVersion(manager, id, head)) as EditionRow;
    return { version: head, since: version.since };
  }

  /** Stores a definition that is checked as a whole. */
  async add(source: unknown): Promise<StoredInstrument> {
    return this.create(readInstrument(source));
  }

  override async save(
    id: string,
    expected: Expected,
    source: unknown,
    origin = 'edited',
  ): Promise<StoredInstrument> {
    const instrument = readInstrument(source);
    this.refuseReadyMade(id, 'copy it, and change the copy');
    return super.save(id, expected, instrument, origin);
  }

  /** Refused as long as something was recorded on it. */
  override async remove(id: string, expected: Expected): Promise<void> {
    this.refuseReadyMade(id, 'put it away, and it is not offered any more');
    const { manager } = this.database.source;
    const where = { instrumentId: id, deletedAt: IsNull() };
    const used = [
      ...(await manager.find(PatchEntity, { where, order: { name: 'ASC' } })),
      ...(await manager.find(UnitEntity, { where, order: { name: 'ASC' } })),
    ];
    if (used.length > 0) {
      const names = used.slice(0, NAMED).map((row) => row.name);
      const more = used.length > NAMED ? ` and ${used.length - NAMED} more` : '';
      throw new Problem(
        409,
        'Still used',
        `It is used by ${names.join(', ')}${more}. Remove those first, or put the instrument away: it is kept for them, and not offered any more.`,
      );
    }
    await super.remove(id, expected);
  }

  /**
   * One that came with Hurrel, as it comes now: a new version where it differs. What was recorded stays on the description
   * that it was recorded on, unless this one only adds. One that is not here any more stays away.
   * @returns whether there is a new version
   */
  async renew(document: Instrument): Promise<boolean> {
    const { id } = document;
    const there = await this.find(id);
    if (!there || !this.readyMade.has(id) || equal(there, document)) return false;
    await super.save(id, '*', document, 'came with Hurrel');
    return true;
  }

  /** Puts an instrument away, or takes it out again. */
  async putAway(id: string, away: boolean): Promise<void> {
    await this.database.write(async (manager) => {
      await this.findHead(manager, id);
      const archivedAt = away ? new Date().toISOString() : null;
      await manager.update(InstrumentEntity, { id }, { archivedAt });
    });
  }

  protected override read(version: VersionRow): Instrument {
    const key = `${version.documentId}/${version.number}`;
    const { document: text } = version;
    const known = this.known.get(key);
    // A version that was never committed may have had the number before.
    const instrument = known?.text === text ? known.instrument : super.read(version);
    // The one that was read last is the last to go.
    this.known.delete(key);
    this.known.set(key, { text, instrument });
    if (this.known.size > MOST_READ) this.known.delete(this.known.keys().next().value!);
    return instrument;
  }

  private refuseReadyMade(id: string, instead: string): void {
    if (!this.readyMade.has(id)) return;
    throw new Problem(
      409,
      'Ready-made',
      `This instrument came with Hurrel and stays as it is: ${instead}.`,
    );
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

/** Refuses a patch of an instrument or a version of it that is not there, or that does not fit that panel. */
export async function standingOn(instruments: InstrumentStore, patch: Patch): Promise<Instrument> {
  const id = patch.instrument;
  const found = await instruments.findOf(patch);
  if (found) return found;
  const newest = await instruments.standing(id).catch(() => undefined);
  throw invalid([
    newest
      ? {
          pointer: '/edition',
          message: `There is no version ${editionOf(patch)} of this instrument: ${newest.version} is the newest.`,
        }
      : { pointer: '/instrument', message: `There is no instrument "${id}".` },
  ]);
}

/** The faults of a document on the panel on which it has fewest: units follow an instrument through all its versions. */
export async function fittingAny<D extends { instrument: string }>(
  instruments: InstrumentStore,
  document: D,
  check: (document: D, instrument: Instrument) => FieldError[],
): Promise<void> {
  const panels = await instruments.meanings(document.instrument);
  if (panels.length === 0) {
    throw invalid([
      { pointer: '/instrument', message: `There is no instrument "${document.instrument}".` },
    ]);
  }
  const faults = panels.map((panel) => check(document, panel));
  if (faults.every((f) => f.length > 0)) throw invalid(faults[0]!);
}
