import { OpenAPIHono } from '@hono/zod-openapi';
import type { Context } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { compress } from 'hono/compress';
import type { Config } from './config';
import { onError, Problem } from './problem';
import { bookletRoutes } from './routes/booklet';
import { computeRoutes } from './routes/compute';
import { carryingRoutes } from './routes/carrying';
import { instrumentRoutes } from './routes/instruments';
import { libraryRoutes } from './routes/library';
import { patchRoutes } from './routes/patches';
import { eveningRoutes } from './routes/evenings';
import { progressRoutes } from './routes/progress';
import { shownRoutes } from './routes/shown';
import { jsonOnly, type Services } from './routes/shared';
import { newsStream } from './routes/news';
import { parcelRoutes } from './routes/parcels';
import { photographRoutes } from './routes/photographs';
import { pictureRoutes } from './routes/pictures';
import { removedRoutes } from './routes/removed';
import { sessionRoutes } from './routes/sessions';
import { sheetRoutes } from './routes/sheet';
import { soundRoutes } from './routes/sounds';
import { takeRoutes } from './routes/takes';
import { walkRoutes, walkStream } from './routes/walks';
import { unitRoutes } from './routes/units';
import { authorityRoute, deviceRoutes } from './routes/devices';
import { contentPolicy, doorGate, doorOf, sameOrigin } from './security';

/** Largest request body. The largest real document, an instrument of 600 controls, takes a third of it. */
const MAX_BODY = 1024 * 1024;
/** Largest take: ten minutes of both sides, 24 bits at 48 kHz, and some. */
const MAX_TAKE = 200 * 1024 * 1024;
const TAKES = /^\/api\/v1\/sessions\/[^/]+\/takes$/;
/** Largest file that is looked at before anything of it is stored. */
const MAX_PARCEL = 1024 * 1024 * 1024;
const PARCELS = '/api/v1/parcels';

/** Largest photograph as a camera gives it. */
const MAX_PHOTOGRAPH = 40 * 1024 * 1024;
const PHOTOGRAPHS = '/api/v1/photographs';
/** Largest recording that a patch is fed with: a minute of both sides, 32 bits at 48 kHz, and some. */
const MAX_SOUND = 24 * 1024 * 1024;
const SOUNDS = '/api/v1/sounds';

/** Everything under /api/v1, a router for each thing that is spoken of. */
const routers = [
  instrumentRoutes,
  carryingRoutes,
  patchRoutes,
  computeRoutes,
  progressRoutes,
  shownRoutes,
  sheetRoutes,
  unitRoutes,
  sessionRoutes,
  eveningRoutes,
  bookletRoutes,
  walkRoutes,
  takeRoutes,
  removedRoutes,
  pictureRoutes,
  parcelRoutes,
] as const;
/** The routers as the typed client knows them, by what they speak of. */
export interface Routers {
  instrument: ReturnType<typeof instrumentRoutes>;
  carrying: ReturnType<typeof carryingRoutes>;
  patch: ReturnType<typeof patchRoutes>;
  compute: ReturnType<typeof computeRoutes>;
  progress: ReturnType<typeof progressRoutes>;
  shown: ReturnType<typeof shownRoutes>;
  sheet: ReturnType<typeof sheetRoutes>;
  unit: ReturnType<typeof unitRoutes>;
  session: ReturnType<typeof sessionRoutes>;
  evening: ReturnType<typeof eveningRoutes>;
  booklet: ReturnType<typeof bookletRoutes>;
  walk: ReturnType<typeof walkRoutes>;
  take: ReturnType<typeof takeRoutes>;
  removed: ReturnType<typeof removedRoutes>;
  picture: ReturnType<typeof pictureRoutes>;
  parcel: ReturnType<typeof parcelRoutes>;
  device: ReturnType<typeof deviceRoutes>;
}

export function createApp(services: Services, config: Config): OpenAPIHono {
  const app = new OpenAPIHono();
  app.onError(onError);
  app.use(contentPolicy);
  app.use(sameOrigin(config));
  const door = config.passcode ? doorOf(config.passcode) : undefined;
  // The application itself is no secret: what it would show is.
  if (door) app.use('/api/*', doorGate(door, services.devices));
  app.use(compress());
  const plain = limit(MAX_BODY, 'A request may hold 1 MB at most.');
  const take = limit(MAX_TAKE, 'A take may hold 200 MB at most.');
  const parcel = limit(MAX_PARCEL, 'A file may hold 1 GB at most.');
  const photograph = limit(MAX_PHOTOGRAPH, 'A photograph may hold 40 MB at most.');
  const sound = limit(MAX_SOUND, 'What is fed in may hold 24 MB at most.');
  const kinds = [
    { is: isTake, allows: take },
    { is: isParcel, allows: parcel },
    { is: isPhotograph, allows: photograph },
    { is: isSound, allows: sound },
  ];
  app.use('/api/*', (c, next) => (kinds.find((k) => k.is(c))?.allows ?? plain)(c, next));
  app.use('/api/*', (c, next) => (kinds.some((k) => k.is(c)) ? next() : jsonOnly(c, next)));
  for (const make of routers) app.route('/api/v1', make(services));
  app.route('/api/v1', deviceRoutes(services, config, door));
  app.route('/api/v1', authorityRoute(config));
  app.route('/api/v1', libraryRoutes(services));
  // Bytes both ways: the client that is typed has no use for it.
  app.route('/api/v1', photographRoutes(services));
  app.route('/api/v1', soundRoutes(services));
  app.route('/api/v1', walkStream(services));
  app.route('/api/v1', newsStream(services));
  app.doc31('/api/v1/openapi.json', {
    openapi: '3.1.0',
    info: {
      title: 'Hurrel',
      version: '1',
      description: 'Panels, what they do, and how to rebuild them.',
    },
    servers: [{ url: '/' }],
  });
  app.all('/api/*', (c) => {
    throw new Problem(404, 'Not found', `There is nothing at ${c.req.method} ${c.req.path}.`);
  });
  return app;
}

const isParcel = (c: Context): boolean => c.req.method === 'POST' && c.req.path === PARCELS;
const isSound = (c: Context): boolean => c.req.method === 'POST' && c.req.path === SOUNDS;
const isPhotograph = (c: Context): boolean => c.req.method === 'POST' && c.req.path === PHOTOGRAPHS;
const isTake = (c: Context): boolean => c.req.method === 'POST' && TAKES.test(c.req.path);

const limit = (maxSize: number, message: string) =>
  bodyLimit({
    maxSize,
    onError: () => {
      throw new Problem(413, 'Too large', message);
    },
  });
