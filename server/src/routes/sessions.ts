import { sessionDifferences, sessionSchema } from '@hurrel/core';
import { documentRoutes, storedSchema, wholeDocumentRoutes } from './documents';
import { router, type Services } from './shared';

/** Sessions: tracks made of passes. */
export const sessionRoutes = (services: Services) => {
  const kind = {
    path: 'sessions' as const,
    store: services.sessions,
    document: sessionSchema,
    stored: storedSchema('session', sessionSchema).openapi('StoredSession'),
    differences: sessionDifferences,
  };
  return router()
    .route(
      '/',
      wholeDocumentRoutes(kind, {}, () => ({})),
    )
    .route('/', documentRoutes(kind));
};
