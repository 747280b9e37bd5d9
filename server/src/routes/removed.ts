import { createRoute, z } from '@hono/zod-openapi';
import { json, router, type Services } from './shared';

const KINDS = ['patch', 'unit', 'session', 'evening', 'instrument'] as const;
const removed = z.object({
  kind: z.enum(KINDS),
  id: z.string(),
  name: z.string(),
  removedAt: z.string(),
});

/** What was removed and can be taken back, of every kind; POST /{kind}s/{id}/restore does it. */
export const removedRoutes = (services: Services) =>
  router().openapi(
    createRoute({
      method: 'get',
      path: '/removed',
      responses: json(z.object({ items: z.array(removed) }), 'What was removed, latest first'),
    }),
    async (c) => {
      const { patches, units, sessions, evenings, instruments } = services;
      const all = await Promise.all(
        [patches, units, sessions, evenings, instruments].map(async (store) =>
          (await store.removed()).map((row) => ({ kind: store.kind.name, ...row })),
        ),
      );
      const items = all.flat().sort((a, b) => b.removedAt.localeCompare(a.removedAt));
      return c.json({ items }, 200);
    },
  );
