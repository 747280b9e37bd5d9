import { EntitySchema, type EntitySchemaColumnOptions } from 'typeorm';

/** What every kind of document has in its own table; what it is listed and found by stands beside it. */
export interface HeadRow {
  id: string;
  /** Number of the newest version. */
  head: number;
  createdAt: string;
  updatedAt: string;
  deletedAt: string | null;
}

/** One state of a document. Never changed once written: the database itself refuses. */
export interface VersionRow {
  documentId: string;
  number: number;
  document: string;
  /** How it came about: `created`, `edited`, `version 3 again` ... */
  origin: string;
  createdAt: string;
  /** Checksum of the document's text; null: it was written before there were any. */
  sum: string | null;
}

/** What a version was called, beside it: the version itself is never changed. */
export interface VersionNameRow {
  kind: string;
  documentId: string;
  number: number;
  name: string;
}

type Columns<T> = Record<keyof T, EntitySchemaColumnOptions>;

/** The table of a kind's documents, with the columns it is listed and found by. */
export const headEntity = <Listed>(
  kind: string,
  listed: Columns<Listed>,
): EntitySchema<HeadRow & Listed> =>
  new EntitySchema<HeadRow & Listed>({
    name: kind,
    columns: {
      id: { type: 'text', primary: true },
      ...listed,
      head: { type: 'integer' },
      createdAt: { type: 'text', name: 'created_at' },
      updatedAt: { type: 'text', name: 'updated_at' },
      deletedAt: { type: 'text', name: 'deleted_at', nullable: true },
    } as Columns<HeadRow & Listed>,
  });

/** The table of a kind's versions, with what else is known of each. */
export const versionEntity = <Row extends VersionRow = VersionRow>(
  kind: string,
  more = {} as Columns<Omit<Row, keyof VersionRow>>,
): EntitySchema<Row> =>
  new EntitySchema<Row>({
    name: `${kind}_version`,
    columns: {
      documentId: { type: 'text', primary: true, name: `${kind}_id` },
      number: { type: 'integer', primary: true },
      document: { type: 'text' },
      origin: { type: 'text' },
      createdAt: { type: 'text', name: 'created_at' },
      sum: { type: 'text', nullable: true },
      ...more,
    } as Columns<Row>,
  });

export const VersionNameEntity = new EntitySchema<VersionNameRow>({
  name: 'version_name',
  columns: {
    kind: { type: 'text', primary: true },
    documentId: { type: 'text', primary: true, name: 'document_id' },
    number: { type: 'integer', primary: true },
    name: { type: 'text' },
  },
});
