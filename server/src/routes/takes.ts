import { createRoute, z } from '@hono/zod-openapi';
import { created, idParam, json, router, type Services } from './shared';

const take = z
  .object({ id: z.string(), name: z.string(), seconds: z.number() })
  .openapi('StoredTake');
const takeParams = z.object({ id: z.string(), take: z.string().max(64) });
const named = z.object({ name: z.string().trim().min(1).max(80).default('take') });

/** A body of memory that a worker can look at without a copy. */
async function sharedBody(request: Request): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body ?? []) {
    chunks.push(chunk as Uint8Array);
    size += (chunk as Uint8Array).length;
  }
  const bytes = new Uint8Array(new SharedArrayBuffer(size));
  let at = 0;
  for (const chunk of chunks) {
    bytes.set(chunk, at);
    at += chunk.length;
  }
  return bytes;
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
        const bytes = await sharedBody(c.req.raw);
        const { id } = c.req.valid('param');
        const stored = await services.takes.add(
          id,
          c.req.valid('query').name,
          bytes,
          c.req.raw.signal,
        );
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
        const bytes = await services.takes.bytes(id, wanted);
        return c.body(Uint8Array.from(bytes).buffer, 200, { 'content-type': 'audio/wav' }) as never;
      },
    );
