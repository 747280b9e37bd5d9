import { createRoute, z } from '@hono/zod-openapi';
import { unitSchema } from '@hurrel/core';
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
  .object({ id: z.string(), version: z.number(), updatedAt: z.string(), unit: unitSchema })
  .openapi('StoredUnit');
const query = z.object({ instrument: z.string().max(64).optional() });

/** Units: one's own specimens of instruments, with calibration and memory. */
export const unitRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/units',
        request: { query },
        responses: json(z.object({ items: z.array(stored) }), 'Units, of one instrument or of all'),
      }),
      async (c) => {
        const { instrument } = c.req.valid('query');
        return c.json({ items: await services.units.list(instrument) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/units',
        request: { body: body(unitSchema) },
        responses: created(stored, 'The unit that was stored'),
      }),
      async (c) => {
        const unit = await services.units.create(c.req.valid('json'));
        c.header('etag', etag(unit.version));
        return c.json(unit, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/units/{id}',
        request: { params: idParam },
        responses: json(stored, 'A unit'),
      }),
      async (c) => {
        const unit = await services.units.get(c.req.valid('param').id);
        c.header('etag', etag(unit.version));
        return c.json(unit, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/units/{id}',
        request: { params: idParam, headers: ifMatchHeader, body: body(unitSchema) },
        responses: json(stored, 'The unit as it is now'),
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const { id } = c.req.valid('param');
        const unit = await services.units.save(id, expected, c.req.valid('json'));
        c.header('etag', etag(unit.version));
        return c.json(unit, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/units/{id}',
        request: { params: idParam, headers: ifMatchHeader },
        responses: { ...json(z.any(), ''), 204: { description: 'Removed' } },
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        await services.units.remove(c.req.valid('param').id, expected);
        return c.body(null, 204) as never;
      },
    );
