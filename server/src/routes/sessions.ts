import { createRoute, z } from '@hono/zod-openapi';
import { sessionSchema } from '@hurrel/core';
import {
  body,
  created,
  etag,
  expectedVersion,
  idParam,
  ifMatchHeader,
  json,
  router,
  type Services,
} from './shared';

const stored = z
  .object({ id: z.string(), version: z.number(), updatedAt: z.string(), session: sessionSchema })
  .openapi('StoredSession');
const take = z
  .object({ id: z.string(), name: z.string(), seconds: z.number() })
  .openapi('StoredTake');
const takeParams = z.object({ id: z.string(), take: z.string().max(64) });
const named = z.object({ name: z.string().trim().min(1).max(80).default('take') });

/** Sessions: tracks made of passes; and the takes, WAV files as they were recorded. */
export const sessionRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions',
        responses: json(z.object({ items: z.array(stored) }), 'Sessions'),
      }),
      async (c) => c.json({ items: await services.sessions.list() }, 200),
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/sessions',
        request: { body: body(sessionSchema) },
        responses: created(stored, 'The session that was stored'),
      }),
      async (c) => {
        const session = await services.sessions.create(c.req.valid('json'));
        c.header('etag', etag(session.version));
        return c.json(session, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions/{id}',
        request: { params: idParam },
        responses: json(stored, 'A session'),
      }),
      async (c) => {
        const session = await services.sessions.get(c.req.valid('param').id);
        c.header('etag', etag(session.version));
        return c.json(session, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/sessions/{id}',
        request: { params: idParam, headers: ifMatchHeader, body: body(sessionSchema) },
        responses: json(stored, 'The session as it is now'),
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const { id } = c.req.valid('param');
        const session = await services.sessions.save(id, expected, c.req.valid('json'));
        c.header('etag', etag(session.version));
        return c.json(session, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/sessions/{id}',
        request: { params: idParam, headers: ifMatchHeader },
        responses: { ...json(z.any(), ''), 204: { description: 'Removed' } },
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        await services.sessions.remove(c.req.valid('param').id, expected);
        return c.body(null, 204) as never;
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions/{id}/takes',
        request: { params: idParam },
        responses: json(z.object({ items: z.array(take) }), 'Takes of a session'),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        return c.json({ items: await services.sessions.takes(id) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/sessions/{id}/takes',
        request: {
          params: idParam,
          query: named,
          body: { content: { 'audio/wav': { schema: z.any() } } },
        },
        responses: created(take, 'The take that was stored'),
      }),
      async (c) => {
        const bytes = new Uint8Array(await c.req.arrayBuffer());
        const { id } = c.req.valid('param');
        const stored = await services.sessions.addTake(id, c.req.valid('query').name, bytes);
        return c.json(stored, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions/{id}/takes/{take}',
        request: { params: takeParams },
        responses: {
          200: { description: 'The WAV file', content: { 'audio/wav': { schema: z.any() } } },
        },
      }),
      async (c) => {
        const { id, take: wanted } = c.req.valid('param');
        const bytes = await services.sessions.take(id, wanted);
        return c.body(Uint8Array.from(bytes).buffer, 200, { 'content-type': 'audio/wav' }) as never;
      },
    );
