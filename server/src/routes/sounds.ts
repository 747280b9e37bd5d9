import { createRoute, z } from '@hono/zod-openapi';
import { fileOf, created, router, type Services } from './shared';
import { bodyOf } from './takes';

const stored = z.object({ id: z.string(), seconds: z.number() }).openapi('StoredSound');
const params = z.object({ id: z.string().regex(/^[0-9a-f]{64}$/) });

/** Recordings that patches are fed with. */
export const soundRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'post',
        path: '/sounds',
        request: { body: { content: { 'audio/wav': { schema: z.any() } } } },
        responses: created(stored, 'The recording under the checksum of its bytes'),
      }),
      async (c) => {
        const parts: Uint8Array[] = [];
        for await (const part of bodyOf(c.req.raw)) parts.push(part);
        return c.json(await services.sounds.add(Buffer.concat(parts)), 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/sounds/{id}',
        request: { params },
        responses: fileOf('audio/wav', 'The WAV file'),
      }),
      async (c) => {
        const { bytes } = await services.sounds.read(c.req.valid('param').id);
        // Under the checksum of its bytes it never is another one.
        const headers = {
          'content-type': 'audio/wav',
          'cache-control': 'private, max-age=31536000, immutable',
        };
        return c.body(new Uint8Array(bytes), 200, headers) as never;
      },
    );
