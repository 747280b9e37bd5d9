import { createRoute, z } from '@hono/zod-openapi';
import {
  blankPatch,
  diffPatches,
  initPositions,
  type Patch,
  settingsAt,
  startPositions,
} from '@hurrel/core';
import type { HeadRow } from '../db/document-entities';
import type { ListedPatch } from '../db/entities';
import { documentRoutes, storedSchema } from './documents';
import { invalid, withinBody } from '../problem';
import {
  body,
  created,
  etag,
  json,
  page,
  paging,
  patchDocument,
  router,
  type Services,
} from './shared';

const storedPatch = storedSchema('patch', patchDocument).openapi('StoredPatch');

const listItem = z
  .object({
    id: z.string(),
    name: z.string(),
    song: z.string(),
    role: z.string(),
    about: z.string(),
    instrument: z.string(),
    version: z.number(),
    recorded: z.number(),
    updatedAt: z.string(),
  })
  .openapi('PatchSummary');

const toItem = (row: HeadRow & ListedPatch): z.infer<typeof listItem> => ({
  id: row.id,
  name: row.name,
  song: row.song,
  role: row.role,
  about: row.about,
  instrument: row.instrumentId,
  version: row.head,
  recorded: row.recorded,
  updatedAt: row.updatedAt,
});

const text = z.string().max(80).optional();

/** A new patch: a whole document, or from the instrument's start or init, or a copy of another patch. */
const creation = z.union([
  z.strictObject({ patch: patchDocument }),
  z.strictObject({
    from: z.enum(['start', 'init', 'nothing']),
    instrument: z.string().max(64),
    name: z.string().trim().min(1).max(80),
    song: text,
    role: patchDocument.shape.role.optional(),
  }),
  z.strictObject({
    from: z.literal('patch'),
    patchId: z.string().max(64),
    name: z.string().trim().min(1).max(80),
    song: text,
  }),
]);

async function newPatch(services: Services, wanted: z.infer<typeof creation>): Promise<Patch> {
  if ('patch' in wanted) return wanted.patch;
  if (wanted.from === 'patch') {
    const { patch } = await services.patches.get(wanted.patchId);
    return { ...patch, name: wanted.name, song: wanted.song ?? patch.song };
  }
  const instrument = await services.instruments.find(wanted.instrument);
  if (!instrument) {
    throw invalid([
      { pointer: '/instrument', message: `There is no instrument "${wanted.instrument}".` },
    ]);
  }
  const positions = {
    start: () => settingsAt(startPositions(instrument)),
    init: () => settingsAt(initPositions(instrument)),
    nothing: () => ({}),
  };
  const { version } = await services.instruments.standing(wanted.instrument);
  return {
    ...blankPatch(instrument, wanted.name),
    // The first needs no saying.
    ...(version === 1 ? {} : { edition: version }),
    song: wanted.song ?? '',
    role: wanted.role ?? 'other',
    settings: positions[wanted.from](),
  };
}

export const patchRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches',
        request: {
          query: z.object({
            song: text,
            role: text,
            instrument: text,
            q: z.string().max(200).optional(),
            /** `song`, as a library is read; `called`: what is called as was typed comes first, as one looks for it. */
            first: z.enum(['song', 'called']).default('song'),
            ...paging,
          }),
        },
        responses: json(page(listItem), 'Patches by song and name'),
      }),
      async (c) => {
        const filter = c.req.valid('query');
        const { song, role, instrument } = filter;
        const { items, total } = await services.patches.list(
          filter,
          { song, role, instrumentId: instrument },
          filter.q,
          filter.first === 'called',
        );
        return c.json(
          { items: items.map(toItem), total, page: filter.page, size: filter.size },
          200,
        );
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/patches',
        request: { body: body(creation) },
        responses: created(storedPatch, 'The patch that was stored'),
      }),
      async (c) => {
        const wanted = c.req.valid('json');
        const patch = await newPatch(services, wanted);
        const made = await withinBody('patch' in wanted ? '/patch' : '', () =>
          services.patches.create(patch),
        );
        c.header('ETag', etag(made.version));
        return c.json(made, 201);
      },
    )
    .route(
      '/',
      documentRoutes({
        path: 'patches',
        store: services.patches,
        document: patchDocument,
        stored: storedPatch,
        differences: async (before: Patch, after: Patch) =>
          diffPatches(
            await services.instruments.of(after),
            before,
            after,
            await services.instruments.of(before),
          ),
      }),
    );
