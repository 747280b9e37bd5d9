import { createRoute, z } from '@hono/zod-openapi';
import { body, idParam, json, router, type Services } from './shared';

/** Patches at a time: more are sent one lot after the other, so that others are answered in between. */
const MOST = 100;

const behind = z.object({
  id: z.string(),
  name: z.string(),
  song: z.string(),
  version: z.number(),
  edition: z.number(),
});
const read = z.strictObject({
  id: z.string().max(64),
  version: z.number().int().min(1).max(1e9),
});
const patches = z.array(read).min(1).max(MOST);
const carried = z
  .object({
    id: z.string(),
    name: z.string(),
    version: z.number(),
    items: z.array(
      z.object({
        key: z.string(),
        how: z.enum(['renamed', 'moved', 'rescaled', 'asked', 'lost']),
        subject: z.string(),
        before: z.string(),
        after: z.string(),
        choices: z.array(z.object({ id: z.string(), name: z.string() })),
        chosen: z.string(),
      }),
    ),
    open: z.array(z.string()),
  })
  .openapi('CarriedPatch');

/** Carrying patches over to the newest description of their instrument: looked at first, done, and taken back. */
export const carryingRoutes = ({ carrying }: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/behind',
        request: { params: idParam },
        responses: json(
          z.object({ items: z.array(behind) }),
          'Patches that stand on a description that means something else than the newest',
        ),
      }),
      async (c) => c.json({ items: await carrying.behind(c.req.valid('param').id) }, 200),
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/instruments/{id}/carry',
        request: {
          params: idParam,
          body: body(
            z.strictObject({
              patches,
              answers: z.record(z.string().max(120), z.string().max(64)).default({}),
              look: z
                .boolean()
                .default(false)
                .openapi({ description: 'Only tell what would become of them' }),
            }),
          ),
        },
        responses: json(
          z.object({ items: z.array(carried) }),
          'What becomes of each patch: readings stay readings',
        ),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        const { patches, answers, look } = c.req.valid('json');
        const items = await carrying[look ? 'look' : 'carry'](id, patches, answers);
        return c.json({ items }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/patches/carried/back',
        request: { body: body(z.strictObject({ patches })) },
        responses: json(
          z.object({ items: z.array(z.object({ id: z.string(), version: z.number() })) }),
          'Each patch as it was before it was carried over',
        ),
      }),
      async (c) => c.json({ items: await carrying.back(c.req.valid('json').patches) }, 200),
    );
