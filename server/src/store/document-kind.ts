import type { EntityManager, EntitySchema } from 'typeorm';
import type { HeadRow, VersionRow } from '../db/document-entities';

/** All that tells one kind of document from another. */
export interface DocumentKind<Name extends string, Document, Listed extends object> {
  /** `patch`, `unit`: its word in messages, and its key in answers. */
  name: Name;
  heads: EntitySchema<HeadRow & Listed>;
  versions: EntitySchema<VersionRow>;
  /** Reads a stored document; throws when it is none. */
  parse(source: unknown): Document;
  /** What it is listed and found by. */
  listed(document: Document): Listed;
  /** Columns that lists are ordered by; the id comes last by itself. */
  order: (keyof Listed & string)[];
  /** Columns that a search looks into. */
  searched?: (keyof Listed & string)[];
  /** Fields that stay what they were made with, and what is said of a change. */
  fixed?: Partial<Record<keyof Document & string, string>>;
  /** Refuses a document that does not fit what else there is. */
  check?(document: Document): Promise<void>;
  /** Refuses what does not fit the document's own belongings, within the transaction; no id: it is new. */
  checkOwn?(manager: EntityManager, document: Document, id?: string): Promise<void>;
  /** The id of a new document, for kinds that bring their own. */
  idOf?(document: Document): string;
  /** What else is written down with a version; no `before`: it is the first. */
  marks?(document: Document, number: number, before?: VersionRow): object;
}
