import { createRoute, z } from '@hono/zod-openapi';
import { type Shown, shownSchema } from '@hurrel/core';
import { body, json, router, type Services } from './shared';

const param = z.object({
  panel: z
    .string()
    .regex(/^(unit|instrument)-[A-Za-z0-9-]{1,64}$/, 'expected unit- or instrument- and an id'),
});
const answered = z.object({
  shown: z.custom<Shown | null>().openapi({
    type: 'object',
    description: 'What the panel shows as far as is known; null when nothing is',
  }),
});
const asked = z.object({ shown: shownSchema });

export const shownRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/shown/{panel}',
        request: { params: param },
        responses: json(answered, 'What a panel shows now'),
      }),
      async (c) => c.json({ shown: await services.shown.get(c.req.valid('param').panel) }, 200),
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/shown/{panel}',
        request: { params: param, body: body(asked) },
        responses: json(answered, 'What a panel shows now'),
      }),
      async (c) => {
        const { shown } = c.req.valid('json');
        await services.shown.put(c.req.valid('param').panel, shown);
        return c.json({ shown }, 200);
      },
    );
