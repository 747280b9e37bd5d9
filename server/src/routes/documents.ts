import { createRoute, z } from '@hono/zod-openapi';
import type { DocumentStore, Stored } from '../store/document-store';
import {
  body,
  created,
  etag,
  expectedVersion,
  idParam,
  ifMatchHeader,
  json,
  page,
  paging,
  router,
} from './shared';

const versionParam = idParam.extend({ number: z.coerce.number().int().min(1).max(1e9) });
const versionItem = z.object({
  number: z.number(),
  origin: z.string(),
  createdAt: z.string(),
  name: z.string(),
});
const difference = z.object({
  pointer: z.string(),
  subject: z.string(),
  before: z.string(),
  after: z.string(),
});
export type Difference = z.infer<typeof difference>;
const naming = z.strictObject({ name: z.string().trim().max(80) });
const since = z.object({ since: z.coerce.number().int().min(0).max(1e9).optional() });

/** A stored document, as it is answered: the document under its kind's own name. */
export const storedSchema = <Name extends string, S extends z.ZodType>(name: Name, document: S) =>
  z
    .object({ id: z.string(), version: z.number(), createdAt: z.string(), updatedAt: z.string() })
    .extend({ [name]: document } as Record<Name, S>);

/** What the routes of a kind of document need to know of it. */
export interface DocumentRoutes<
  Path extends string,
  Name extends string,
  Document,
  Listed extends object,
> {
  /** `units`: where they are under /api/v1. */
  path: Path;
  store: DocumentStore<Name, Document, Listed>;
  /** What is read from a body. */
  document: z.ZodType<Document>;
  stored: z.ZodType<Stored<Name, Document>>;
  /** What differs between two versions, in readings of the panel or in words. */
  differences(before: Document, after: Document): Difference[] | Promise<Difference[]>;
}

/** Reading, writing and removing documents of one kind, with their history. Every kind answers alike. */
export function documentRoutes<
  const Path extends string,
  const Name extends string,
  Document,
  Listed extends object,
>(kind: DocumentRoutes<Path, Name, Document, Listed>) {
  const { path, store, stored } = kind;
  return router()
    .openapi(
      createRoute({
        method: 'get',
        path: `/${path}/{id}` as const,
        request: { params: idParam },
        responses: json(stored, 'The document, its newest version'),
      }),
      async (c) => {
        const found = await store.get(c.req.valid('param').id);
        c.header('ETag', etag(found.version));
        return c.json(found, 200) as never;
      },
    )
    .route('/', changeRoutes(kind));
}

/** The same without reading the newest: for kinds that answer that in their own way. */
export function changeRoutes<
  const Path extends string,
  const Name extends string,
  Document,
  Listed extends object,
>({ path, store, document, stored, differences }: DocumentRoutes<Path, Name, Document, Listed>) {
  const one = `/${path}/{id}` as const;
  const tell = (c: { header(name: string, value: string): void }, found: { version: number }) =>
    c.header('ETag', etag(found.version));
  return router()
    .openapi(
      createRoute({
        method: 'put',
        path: one,
        request: { params: idParam, headers: ifMatchHeader, body: body(document) },
        responses: json(stored, 'The new version'),
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const saved = await store.save(
          c.req.valid('param').id,
          expected,
          c.req.valid('json') as Document,
        );
        tell(c, saved);
        return c.json(saved, 200) as never;
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: one,
        request: { params: idParam, headers: ifMatchHeader },
        responses: json(
          z.object({ removed: z.string() }),
          'Removed; POST .../restore takes it back',
        ),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        await store.remove(id, expectedVersion(c.req.valid('header')['if-match']));
        return c.json({ removed: id }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: `${one}/restore` as const,
        request: { params: idParam },
        responses: json(stored, 'What was removed'),
      }),
      async (c) => c.json(await store.restore(c.req.valid('param').id), 200) as never,
    )
    .openapi(
      createRoute({
        method: 'get',
        path: `${one}/versions` as const,
        request: { params: idParam, query: z.object(paging) },
        responses: json(page(versionItem), 'Versions, newest first'),
      }),
      async (c) => {
        const query = c.req.valid('query');
        const { items, total } = await store.versions(c.req.valid('param').id, query);
        const told = items.map(({ number, origin, createdAt, name }) => ({
          number,
          origin,
          createdAt,
          name,
        }));
        return c.json({ items: told, total, page: query.page, size: query.size }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: `${one}/versions/{number}` as const,
        request: { params: versionParam },
        responses: json(stored, 'A version'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        return c.json(await store.version(id, number), 200) as never;
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: `${one}/versions/{number}/changes` as const,
        request: { params: versionParam, query: since },
        responses: json(
          z.object({ since: z.number(), items: z.array(difference) }),
          'What changed since an earlier version, the one before unless another is named',
        ),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const from = c.req.valid('query').since ?? number - 1;
        const name = store.kind.name;
        const after = (await store.version(id, number))[name];
        const before = from === 0 ? after : (await store.version(id, from))[name];
        return c.json({ since: from, items: await differences(before, after) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: `${one}/versions/{number}/name` as const,
        request: { params: versionParam, body: body(naming) },
        responses: json(naming, 'The name that it has now; empty: none'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const { name } = c.req.valid('json');
        await store.nameVersion(id, number, name);
        return c.json({ name }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: `${one}/versions/{number}/restore` as const,
        request: { params: versionParam, headers: ifMatchHeader },
        responses: json(stored, 'The old version as the newest'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const back = await store.goBack(id, expected, number);
        tell(c, back);
        return c.json(back, 200) as never;
      },
    );
}

/** Lists of whole documents, and making one from a whole document: for kinds that are small. */
export function wholeDocumentRoutes<
  const Path extends string,
  const Name extends string,
  Document,
  Listed extends object,
  Query extends Record<string, z.ZodType>,
>(
  { path, store, document, stored }: DocumentRoutes<Path, Name, Document, Listed>,
  query: Query,
  where: (query: Record<keyof Query, string | undefined>) => Partial<Listed>,
) {
  return router()
    .openapi(
      createRoute({
        method: 'get',
        path: `/${path}` as const,
        request: { query: z.object({ ...query, ...paging }) },
        responses: json(page(stored), 'A page of them'),
      }),
      async (c) => {
        const asked = c.req.valid('query') as { page: number; size: number };
        const { items, total } = await store.listWhole(asked, where(asked as never));
        return c.json({ items, total, page: asked.page, size: asked.size }, 200) as never;
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: `/${path}` as const,
        request: { body: body(document) },
        responses: created(stored, 'What was stored'),
      }),
      async (c) => {
        const made = await store.create(c.req.valid('json') as Document);
        c.header('ETag', etag(made.version));
        return c.json(made, 201) as never;
      },
    );
}
