import { createRoute, z } from '@hono/zod-openapi';
import { body, idParam, json, router, type Services } from './shared';

const query = z.object({
  from: z.string().regex(/^[A-Za-z0-9.-]{1,120}$/, 'not an id, start or init'),
});
const progress = z.strictObject({ done: z.array(z.string().max(120)).max(1000) });

export const progressRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}/progress',
        request: { params: idParam, query },
        responses: json(progress, 'Steps ticked so far'),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        await services.patches.get(id);
        return c.json({ done: await services.progress.get(id, c.req.valid('query').from) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/patches/{id}/progress',
        request: { params: idParam, query, body: body(progress) },
        responses: json(progress, 'Steps ticked so far'),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        await services.patches.get(id);
        const { done } = c.req.valid('json');
        await services.progress.put(id, c.req.valid('query').from, done);
        return c.json({ done }, 200);
      },
    );
