import { createRoute, z } from '@hono/zod-openapi';
import {
  controlHeard,
  type Instrument,
  type Shown,
  shownHeardThen,
  shownSchema,
} from '@hurrel/core';
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
const seven = z.number().int().min(0).max(127);
const heard = z.strictObject({
  moved: z
    .array(
      z.strictObject({
        cc: seven,
        sent: seven,
        /** Seconds since it was heard: it may have waited for the server. */
        ago: z.number().min(0).max(1e9).default(0),
      }),
    )
    .min(1)
    .max(128),
});

/** The instrument that a panel is of, as it is described now. */
async function instrumentOf({ units, instruments }: Services, panel: string): Promise<Instrument> {
  const id = panel.slice(panel.indexOf('-') + 1);
  const of = panel.startsWith('unit-') ? (await units.get(id)).unit.instrument : id;
  return (await instruments.get(of)).instrument;
}

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
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/shown/{panel}/heard',
        request: { params: param, body: body(heard) },
        responses: json(
          answered,
          'What a panel shows now that its controls were heard to be moved',
        ),
      }),
      async (c) => {
        const { panel } = c.req.valid('param');
        const { controls } = await instrumentOf(services, panel);
        // A device sends more than its panel has: what none of its controls sends is left out.
        const now = Date.now();
        const all = c.req.valid('json').moved.flatMap(({ cc, sent, ago }) => {
          const found = controlHeard(controls, cc, sent);
          return found
            ? [{ ...found, at: new Date(Math.round(now - 1000 * ago)).toISOString() }]
            : [];
        });
        const shown = await services.shown.change(panel, (known, since) => ({
          shown: shownHeardThen(known, all, since),
          since: all.reduce((last, h) => (h.at > last ? h.at : last), since),
        }));
        return c.json({ shown }, 200);
      },
    );
