import { randomUUID } from 'node:crypto';
import equal from 'fast-deep-equal';
import {
  Brackets,
  type EntityManager,
  type FindOptionsWhere,
  IsNull,
  Not,
  type ObjectLiteral,
} from 'typeorm';
import type { Database } from '../db/database';
import { type HeadRow, VersionNameEntity, type VersionRow } from '../db/document-entities';
import { invalid, notFound, Problem } from '../problem';
import { sumOfText } from '../db/sum';
import type { DocumentKind } from './document-kind';
import { Damaged } from './damaged';
import { Listeners } from './listeners';
import { readOrTell } from './unreadable';

/** A document with what the store knows of it; the document stands under its kind's own name. */
export type Stored<Name extends string, Document> = {
  id: string;
  version: number;
  createdAt: string;
  updatedAt: string;
} & Record<Name, Document>;

/** Removed documents that are told of. */
const MOST_REMOVED = 200;

/** Version that a writer has read: a number, or `*` for whatever is newest. */
export type Expected = number | '*';

export interface Page {
  page: number;
  size: number;
}

/** Words as `LIKE` takes them at their letters. */
const escaped = (words: string): string => words.replace(/[\\%_]/g, '\\$&');

/** Documents of one kind: immutable versions, and a head that points at the newest. A write must know what it goes on from. */
export class DocumentStore<Name extends string, Document, Listed extends object> {
  /** Tells by a document's id that it has a newer version. */
  readonly news = new Listeners<number>();

  constructor(
    protected readonly database: Database,
    readonly kind: DocumentKind<Name, Document, Listed>,
  ) {}

  /**
   * Heads that fit, a page of them, and how many there are in all.
   *
   * @param calledFirst what is called as was typed comes before what has the words elsewhere
   */
  async list(
    { page, size }: Page,
    where: Partial<Listed> = {},
    words = '',
    calledFirst = false,
  ): Promise<{ items: (HeadRow & Listed)[]; total: number }> {
    const query = this.database.source
      .getRepository<ObjectLiteral>(this.kind.heads)
      .createQueryBuilder('d')
      .where('d.deletedAt IS NULL');
    for (const [column, value] of Object.entries(where)) {
      if (value !== undefined) query.andWhere(`d.${column} = :${column}`, { [column]: value });
    }
    const searched = this.kind.searched ?? [];
    words
      .split(/\s+/)
      .filter((word) => word !== '' && searched.length > 0)
      .forEach((word, i) => {
        const like = `%${escaped(word)}%`;
        query.andWhere(
          new Brackets((any) =>
            searched.forEach((f) =>
              any.orWhere(`d.${f} LIKE :q${i} ESCAPE '\\'`, { [`q${i}`]: like }),
            ),
          ),
        );
      });
    if (calledFirst && searched.some((f) => f === 'name')) {
      query.setParameter('called', `%${escaped(words.trim())}%`);
      query.addOrderBy(`CASE WHEN d.name LIKE :called ESCAPE '\\' THEN 0 ELSE 1 END`);
    }
    for (const column of this.kind.order) query.addOrderBy(`d.${column}`);
    const [items, total] = await query
      .addOrderBy('d.id')
      .skip((page - 1) * size)
      .take(size)
      .getManyAndCount();
    return { items: items as (HeadRow & Listed)[], total };
  }

  /** The same with the documents themselves: for kinds whose documents are small. */
  async listWhole(
    page: Page,
    where: Partial<Listed> = {},
  ): Promise<{ items: Stored<Name, Document>[]; total: number }> {
    const { items, total } = await this.list(page, where);
    const manager = this.database.source.manager;
    const whole = await Promise.all(
      items.map(async (row) => {
        const version = await this.findVersion(manager, row.id, row.head);
        return readOrTell(`${this.kind.name} "${row.id}"`, () => this.stored(row, version));
      }),
    );
    return { items: whole.filter((d) => d !== undefined), total };
  }

  /** How many there are for each value of a column. */
  async countBy(column: keyof Listed & string): Promise<ReadonlyMap<string, number>> {
    const rows = await this.database.source
      .getRepository<ObjectLiteral>(this.kind.heads)
      .createQueryBuilder('d')
      .select(`d.${column}`, 'value')
      .addSelect('COUNT(*)', 'count')
      .where('d.deletedAt IS NULL')
      .groupBy(`d.${column}`)
      .getRawMany<{ value: string; count: number }>();
    return new Map(rows.map((row) => [row.value, row.count]));
  }

  async get(id: string): Promise<Stored<Name, Document>> {
    const { manager } = this.database.source;
    const row = await this.findHead(manager, id);
    try {
      return this.stored(row, await this.findVersion(manager, id, row.head));
    } catch (error) {
      if (!(error instanceof Damaged)) throw error;
      throw error.problem(row.head, await this.newestWhole(manager, row));
    }
  }

  /** Number of the newest version that is as it was written; null when none is. */
  private async newestWhole(manager: EntityManager, { id, head }: HeadRow): Promise<number | null> {
    for (let number = head - 1; number >= 1; number--) {
      const version = await manager.findOneBy(this.kind.versions, { documentId: id, number });
      if (version && this.isWhole(version)) return number;
    }
    return null;
  }

  private isWhole(version: VersionRow): boolean {
    try {
      this.read(version);
      return true;
    } catch (error) {
      if (error instanceof Damaged) return false;
      throw error;
    }
  }

  /** Whether there is one of an id: itself, that it was removed, or nothing. */
  async peek(id: string): Promise<Stored<Name, Document> | 'removed' | undefined> {
    const { manager } = this.database.source;
    const row = await manager.findOneBy<ObjectLiteral>(this.kind.heads, { id });
    if (!row) return undefined;
    if ((row as HeadRow).deletedAt !== null) return 'removed';
    return this.stored(row as HeadRow, await this.findVersion(manager, id, (row as HeadRow).head));
  }

  /** @param own an id that it had elsewhere, and that is free here */
  async create(
    document: Document,
    origin = 'created',
    own?: string,
  ): Promise<Stored<Name, Document>> {
    await this.kind.check?.(document);
    const id = this.kind.idOf?.(document) ?? own ?? randomUUID();
    const now = new Date().toISOString();
    const row = {
      id,
      ...this.kind.listed(document),
      head: 1,
      createdAt: now,
      updatedAt: now,
      deletedAt: null,
    };
    const version = this.versionRow(
      { documentId: id, number: 1, origin, createdAt: now },
      document,
    );
    await this.database.write(async (manager) => {
      await this.kind.checkOwn?.(manager, document);
      await manager.insert<ObjectLiteral>(this.kind.heads, row);
      await manager.insert(this.kind.versions, version);
    });
    return this.facts(row, 1, now, document);
  }

  /** Writes a new version on top of the one that was read; a document that has not changed gets none. */
  async save(
    id: string,
    expected: Expected,
    document: Document,
    origin = 'edited',
  ): Promise<Stored<Name, Document>> {
    await this.kind.check?.(document);
    return this.database.write(async (manager) => {
      const row = await this.expectedHead(manager, id, expected);
      const newest = await this.findVersion(manager, id, row.head);
      // On a version that is damaged anything whole may be put.
      const current = this.isWhole(newest) ? this.stored(row, newest) : null;
      if (current) this.refuseChanged(current[this.kind.name], document);
      await this.kind.checkOwn?.(manager, document, id);
      if (current && equal(current[this.kind.name], document)) return current;
      const now = new Date().toISOString();
      const version = row.head + 1;
      const facts = { documentId: id, number: version, origin, createdAt: now };
      await manager.insert(this.kind.versions, this.versionRow(facts, document, newest));
      await manager.update<ObjectLiteral>(
        this.kind.heads,
        { id },
        { ...this.kind.listed(document), head: version, updatedAt: now },
      );
      // Whoever hears of it reads it: it has to be committed by then.
      void this.database.settled().then(() => this.news.say(id, version));
      return this.facts(row, version, now, document);
    });
  }

  /** An old version once more, as the newest. */
  async goBack(id: string, expected: Expected, number: number): Promise<Stored<Name, Document>> {
    const old = await this.version(id, number);
    return this.save(id, expected, old[this.kind.name], `version ${number} again`);
  }

  async remove(id: string, expected: Expected): Promise<void> {
    await this.database.write(async (manager) => {
      await this.expectedHead(manager, id, expected);
      await this.markRemoved(manager, id, new Date().toISOString());
    });
  }

  /** Takes a removal back. */
  async restore(id: string): Promise<Stored<Name, Document>> {
    await this.database.write(async (manager) => {
      const row = await manager.findOneBy<ObjectLiteral>(this.kind.heads, { id });
      if (!row) throw notFound(this.kind.name, id);
      await this.markRemoved(manager, id, null);
    });
    return this.get(id);
  }

  /** What is known of the versions, newest first. */
  async versions(
    id: string,
    { page, size }: Page,
  ): Promise<{ items: (VersionRow & { name: string })[]; total: number }> {
    const { manager } = this.database.source;
    await this.findHead(manager, id);
    const [rows, total] = await manager.findAndCount(this.kind.versions, {
      where: { documentId: id },
      order: { number: 'DESC' },
      skip: (page - 1) * size,
      take: size,
    });
    const where = { kind: this.kind.name, documentId: id };
    const names = await manager.find(VersionNameEntity, { where });
    const byNumber = new Map(names.map((n) => [n.number, n.name]));
    return { items: rows.map((row) => ({ ...row, name: byNumber.get(row.number) ?? '' })), total };
  }

  /** Gives a version a name, or takes it away. */
  async nameVersion(id: string, number: number, name: string): Promise<void> {
    await this.database.write(async (manager) => {
      await this.findHead(manager, id);
      await this.findVersion(manager, id, number);
      const key = { kind: this.kind.name, documentId: id, number };
      if (name === '') await manager.delete(VersionNameEntity, key);
      else await manager.upsert(VersionNameEntity, { ...key, name }, Object.keys(key));
    });
  }

  /** What was removed and can be taken back, the latest first. */
  async removed(): Promise<{ id: string; name: string; removedAt: string }[]> {
    const rows = await this.database.source.manager.find<ObjectLiteral>(this.kind.heads, {
      where: { deletedAt: Not(IsNull()) },
      order: { deletedAt: 'DESC' },
      take: MOST_REMOVED,
    });
    return (rows as (HeadRow & { name: string })[]).map(({ id, name, deletedAt }) => ({
      id,
      name,
      removedAt: deletedAt!,
    }));
  }

  async version(id: string, number: number): Promise<Stored<Name, Document>> {
    const row = await this.findHead(this.database.source.manager, id);
    return this.stored(row, await this.findVersion(this.database.source.manager, id, number));
  }

  /** A head that is there; throws when there is none, or it was removed. */
  protected async findHead(manager: EntityManager, id: string): Promise<HeadRow & Listed> {
    const where = { id, deletedAt: IsNull() } as FindOptionsWhere<ObjectLiteral>;
    const row = await manager.findOneBy<ObjectLiteral>(this.kind.heads, where);
    if (!row) throw notFound(this.kind.name, id);
    return row as HeadRow & Listed;
  }

  private markRemoved(manager: EntityManager, id: string, deletedAt: string | null) {
    return manager.update<ObjectLiteral>(this.kind.heads, { id }, { deletedAt });
  }

  protected async findVersion(
    manager: EntityManager,
    documentId: string,
    number: number,
  ): Promise<VersionRow> {
    const row = await manager.findOneBy(this.kind.versions, { documentId, number });
    if (!row) throw notFound(`version of this ${this.kind.name}`, String(number));
    return row;
  }

  protected async expectedHead(
    manager: EntityManager,
    id: string,
    expected: Expected,
  ): Promise<HeadRow & Listed> {
    const row = await this.findHead(manager, id);
    if (expected === '*' || expected === row.head) return row;
    const current = this.stored(row, await this.findVersion(manager, id, row.head));
    throw new Problem(
      412,
      'Changed meanwhile',
      `Version ${expected} was read, but version ${row.head} is the newest. Read it, and decide what to keep.`,
      [],
      { current },
    );
  }

  private refuseChanged(before: Document, after: Document): void {
    for (const [field, message] of Object.entries<string | undefined>(this.kind.fixed ?? {})) {
      const key = field as keyof Document;
      if (message === undefined || equal(before[key], after[key])) continue;
      throw invalid([{ pointer: `/${field}`, message }]);
    }
  }

  private versionRow(
    facts: Omit<VersionRow, 'document' | 'sum'>,
    document: Document,
    before?: VersionRow,
  ): VersionRow {
    const marks = this.kind.marks?.(document, facts.number, before);
    const text = JSON.stringify(document);
    return { ...facts, document: text, sum: sumOfText(text), ...marks };
  }

  /** A version's document. @throws Damaged when it is not what was written */
  protected read({ document, sum, number }: VersionRow): Document {
    if (sum !== null && sumOfText(document) !== sum) throw new Damaged(this.kind.name, number);
    try {
      return this.kind.parse(JSON.parse(document));
    } catch (error) {
      throw new Damaged(this.kind.name, number, error);
    }
  }

  protected stored(row: HeadRow, version: VersionRow): Stored<Name, Document> {
    const document = this.read(version);
    return this.facts(row, version.number, version.createdAt, document);
  }

  private facts(
    { id, createdAt }: HeadRow,
    version: number,
    updatedAt: string,
    document: Document,
  ): Stored<Name, Document> {
    return { id, version, createdAt, updatedAt, [this.kind.name]: document } as Stored<
      Name,
      Document
    >;
  }
}
