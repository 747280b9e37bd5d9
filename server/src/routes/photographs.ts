import { createRoute, z } from '@hono/zod-openapi';
import { bodyOf } from './takes';
import { fileOf, created, router, type Services } from './shared';

const stored = z
  .object({ id: z.string(), width: z.number(), height: z.number() })
  .openapi('StoredPhotograph');
const params = z.object({ id: z.string().regex(/^[0-9a-f]{64}$/) });

/** Photographs of panels. */
export const photographRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'post',
        path: '/photographs',
        request: { body: { content: { 'image/*': { schema: z.any() } } } },
        responses: created(stored, 'The photograph as it is kept: upright, as a JPEG'),
      }),
      async (c) => {
        const parts: Uint8Array[] = [];
        for await (const part of bodyOf(c.req.raw)) parts.push(part);
        return c.json(await services.photographs.add(Buffer.concat(parts)), 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/photographs/{id}',
        request: { params },
        responses: fileOf('image/jpeg', 'A JPEG'),
      }),
      async (c) => {
        const { bytes } = await services.photographs.read(c.req.valid('param').id);
        // Under the checksum of its bytes it never is another one.
        const headers = {
          'content-type': 'image/jpeg',
          'cache-control': 'private, max-age=31536000, immutable',
        };
        return c.body(new Uint8Array(bytes), 200, headers) as never;
      },
    );
