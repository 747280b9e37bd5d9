import equal from 'fast-deep-equal';

/** One difference between two states of a document, in words that its reader knows. */
export interface Difference {
  /** JSON pointer into the document; entries of lists are named by their key. */
  pointer: string;
  /** What it is about: a control, a section, a field by its name. */
  subject: string;
  before: string;
  after: string;
}

/** A field with what it is called, and how its contents are told. */
export type ToldField<D> = [
  field: keyof D & string,
  subject: string,
  text: (document: D) => string,
];

/** Differences of whole fields. */
export const fieldDifferences = <D>(
  fields: readonly ToldField<D>[],
  before: D,
  after: D,
): Difference[] =>
  fields
    .filter(([field]) => !equal(before[field], after[field]))
    .map(([field, subject, text]) => ({
      pointer: `/${field}`,
      subject,
      before: text(before),
      after: text(after),
    }));

/** Differences of the entries of two records; `text` gets undefined for an entry that is not there. */
export const entryDifferences = <T>(
  field: string,
  before: Readonly<Record<string, T>>,
  after: Readonly<Record<string, T>>,
  subject: (key: string) => string,
  text: (entry: T | undefined, key: string) => string,
): Difference[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((key) => !equal(before[key], after[key]))
    .map((key) => ({
      pointer: `/${field}/${key}`,
      subject: subject(key),
      before: text(before[key], key),
      after: text(after[key], key),
    }));
