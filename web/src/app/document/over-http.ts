import { answer, ApiError } from '../api/client';
import type { DocumentKind, DocumentSides, Stored } from './document';

/** A stored document as the server answers it: under its kind's own name. */
type Told<K extends string, D> = {
  id: string;
  version: number;
  updatedAt: string;
} & Record<K, D>;

interface Answer {
  ok: boolean;
  status: number;
  json(): Promise<unknown>;
}

/** What is asked of the server for every kind of document. */
export interface DocumentRequests<D> {
  get(id: string): Promise<Answer>;
  put(id: string, ifMatch: string, document: D): Promise<Answer>;
  version(id: string, number: string): Promise<Answer>;
}

/** Reading and writing of a kind of document over HTTP; `key` is its name in answers. */
export function overHttp<K extends string, D, C>(
  key: K,
  requests: DocumentRequests<D>,
  parse: (source: unknown) => D,
  contextOf: (document: D) => Promise<C>,
  merge: DocumentSides<D>['merge'],
): DocumentKind<D, C> {
  const documentOf = ({ id, version, updatedAt, [key]: document }: Told<K, D>): Stored<D> => ({
    id,
    version,
    updatedAt,
    document,
  });
  const ask = async (request: Promise<Answer>): Promise<Stored<D>> =>
    documentOf(await answer<Told<K, D>>(request));
  return {
    name: key,
    parse,
    async read(id) {
      const stored = await ask(requests.get(id));
      return { stored, context: await contextOf(stored.document) };
    },
    readVersion: async (id, version) => (await ask(requests.version(id, String(version)))).document,
    write: ({ id, version }, document) => ask(requests.put(id, `"${version}"`, document)),
    merge(base, mine, theirs) {
      const { merged, conflicts } = merge(base, mine, theirs);
      return conflicts.length === 0 ? merged : null;
    },
    newer: (refusal) =>
      refusal instanceof ApiError && refusal.status === 412 && refusal.body.current
        ? documentOf(refusal.body.current as Told<K, D>)
        : undefined,
  };
}
