import { eveningDifferences, eveningSchema } from '@hurrel/core';
import { documentRoutes, storedSchema, wholeDocumentRoutes } from './documents';
import { router, type Services } from './shared';

/** Sets: evenings on stage. */
export const eveningRoutes = (services: Services) => {
  const kind = {
    path: 'evenings' as const,
    store: services.evenings,
    document: eveningSchema,
    stored: storedSchema('evening', eveningSchema).openapi('StoredEvening'),
    differences: eveningDifferences,
  };
  return router()
    .route(
      '/',
      wholeDocumentRoutes(kind, {}, () => ({})),
    )
    .route('/', documentRoutes(kind));
};
