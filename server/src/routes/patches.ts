import { createRoute, z } from '@hono/zod-openapi';
import { blankPatch, initPositions, type Patch, settingsAt, startPositions } from '@hurrel/core';
import type { PatchRow } from '../db/entities';
import { invalid } from '../problem';
import {
  body,
  created,
  etag,
  expectedVersion,
  idParam,
  ifMatchHeader,
  json,
  page,
  paging,
  patchDocument,
  router,
  type Services,
  storedPatch,
} from './shared';

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

const toItem = (row: PatchRow): z.infer<typeof listItem> => ({
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
  return {
    ...blankPatch(instrument, wanted.name),
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
            ...paging,
          }),
        },
        responses: json(page(listItem), 'Patches by song and name'),
      }),
      async (c) => {
        const filter = c.req.valid('query');
        const { items, total } = await services.patches.list(filter);
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
        const made = await services.patches.create(await newPatch(services, c.req.valid('json')));
        c.header('ETag', etag(made.version));
        return c.json(made, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}',
        request: { params: idParam },
        responses: json(storedPatch, 'A patch, its newest version'),
      }),
      async (c) => {
        const found = await services.patches.get(c.req.valid('param').id);
        c.header('ETag', etag(found.version));
        return c.json(found, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/patches/{id}',
        request: { params: idParam, headers: ifMatchHeader, body: body(patchDocument) },
        responses: json(storedPatch, 'The new version'),
      }),
      async (c) => {
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const saved = await services.patches.save(
          c.req.valid('param').id,
          expected,
          c.req.valid('json'),
        );
        c.header('ETag', etag(saved.version));
        return c.json(saved, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/patches/{id}',
        request: { params: idParam, headers: ifMatchHeader },
        responses: json(
          z.object({ removed: z.string() }),
          'Removed; POST .../restore takes it back',
        ),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        await services.patches.remove(id, expectedVersion(c.req.valid('header')['if-match']));
        return c.json({ removed: id }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/patches/{id}/restore',
        request: { params: idParam },
        responses: json(storedPatch, 'The patch that was removed'),
      }),
      async (c) => c.json(await services.patches.restore(c.req.valid('param').id), 200),
    );
