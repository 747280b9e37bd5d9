import { Readable } from 'node:stream';
import { createRoute, z } from '@hono/zod-openapi';
import { fileOf, created, idParam, json, router, type Services } from './shared';

const take = z
  .object({ id: z.string(), name: z.string(), seconds: z.number(), size: z.number() })
  .openapi('StoredTake');
const takeParams = z.object({ id: z.string(), take: z.string().max(64) });
const named = z.object({ name: z.string().trim().min(1).max(80).default('take') });

/** A body as it comes. */
export async function* bodyOf(request: Request): AsyncIterable<Uint8Array> {
  const reader = request.body?.getReader();
  for (;;) {
    const next = await reader?.read();
    if (!next || next.done) return;
    yield next.value;
  }
}

/** Takes of a session: WAV files as they were recorded. */
export const takeRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions/{id}/takes',
        request: { params: idParam },
        responses: json(z.object({ items: z.array(take) }), 'Takes of a session'),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        return c.json({ items: await services.takes.of(id) }, 200);
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
        const { id } = c.req.valid('param');
        const stored = await services.takes.add(id, c.req.valid('query').name, bodyOf(c.req.raw));
        return c.json(stored, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/sessions/{id}/takes/{take}',
        request: { params: takeParams },
        responses: json(z.object({ removed: z.string() }), 'Removed for good, its room freed'),
      }),
      async (c) => {
        const { id, take: wanted } = c.req.valid('param');
        await services.takes.remove(id, wanted);
        return c.json({ removed: wanted }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/sessions/{id}/takes/{take}',
        request: { params: takeParams },
        responses: fileOf('audio/wav', 'The WAV file'),
      }),
      async (c) => {
        const { id, take: wanted } = c.req.valid('param');
        const { size, pieces } = await services.takes.read(id, wanted);
        return c.body(Readable.toWeb(Readable.from(pieces)) as unknown as ReadableStream, 200, {
          'content-type': 'audio/wav',
          'content-length': String(size),
        }) as never;
      },
    );
