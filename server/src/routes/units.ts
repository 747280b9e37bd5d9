import { z } from '@hono/zod-openapi';
import { type Unit, unitDifferences, unitSchema } from '@hurrel/core';
import { documentRoutes, storedSchema, wholeDocumentRoutes } from './documents';
import { router, type Services } from './shared';

/** Units: one's own specimens of instruments, with calibration and memory. */
export const unitRoutes = (services: Services) => {
  const kind = {
    path: 'units' as const,
    store: services.units,
    document: unitSchema,
    stored: storedSchema('unit', unitSchema).openapi('StoredUnit'),
    differences: async (before: Unit, after: Unit) =>
      unitDifferences((await services.instruments.get(after.instrument)).instrument, before, after),
  };
  const query = { instrument: z.string().max(64).optional() };
  return router()
    .route(
      '/',
      wholeDocumentRoutes(kind, query, (q) => ({ instrumentId: q.instrument })),
    )
    .route('/', documentRoutes(kind));
};
