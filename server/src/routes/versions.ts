import { createRoute, z } from '@hono/zod-openapi';
import { diffPatches } from '@hurrel/core';
import {
  etag,
  expectedVersion,
  idParam,
  ifMatchHeader,
  json,
  page,
  paging,
  router,
  type Services,
  storedPatch,
} from './shared';

const versionParam = idParam.extend({ number: z.coerce.number().int().min(1).max(1e9) });
const versionItem = z.object({ number: z.number(), origin: z.string(), createdAt: z.string() });
const difference = z.object({
  pointer: z.string(),
  subject: z.string(),
  before: z.string(),
  after: z.string(),
});

export const versionRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}/versions',
        request: { params: idParam, query: z.object(paging) },
        responses: json(page(versionItem), 'Versions, newest first'),
      }),
      async (c) => {
        const query = c.req.valid('query');
        const { items, total } = await services.patches.versions(
          c.req.valid('param').id,
          query.page,
          query.size,
        );
        const told = items.map(({ number, origin, createdAt }) => ({ number, origin, createdAt }));
        return c.json({ items: told, total, page: query.page, size: query.size }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}/versions/{number}',
        request: { params: versionParam },
        responses: json(storedPatch, 'A version'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        return c.json(await services.patches.version(id, number), 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}/versions/{number}/changes',
        request: {
          params: versionParam,
          query: z.object({ since: z.coerce.number().int().min(0).max(1e9).optional() }),
        },
        responses: json(
          z.object({ since: z.number(), items: z.array(difference) }),
          'What changed since an earlier version, the one before unless another is named, in readings of the panel',
        ),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const since = c.req.valid('query').since ?? number - 1;
        const after = (await services.patches.version(id, number)).patch;
        const instrument = await services.instruments.get(after.instrument);
        const before = since === 0 ? after : (await services.patches.version(id, since)).patch;
        return c.json({ since, items: diffPatches(instrument, before, after) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/patches/{id}/versions/{number}/restore',
        request: { params: versionParam, headers: ifMatchHeader },
        responses: json(storedPatch, 'The old version as the newest'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const back = await services.patches.goBack(id, expected, number);
        c.header('ETag', etag(back.version));
        return c.json(back, 200);
      },
    );
