import { createRoute, z } from '@hono/zod-openapi';
import {
  hasCircuit,
  type Instrument,
  instrumentDifferences,
  instrumentSchema,
  type InstrumentSource,
  panelOf,
  patchSchema,
  patternSchema,
  sessionSchema,
  type Skeleton,
} from '@hurrel/core';
import { changeRoutes, storedSchema } from './documents';
import {
  body,
  created,
  etag,
  idParam,
  instrumentDocument,
  json,
  router,
  type Services,
} from './shared';

const summary = z
  .object({
    id: z.string(),
    maker: z.string(),
    name: z.string(),
    summary: z.string(),
    controls: z.number(),
    units: z.number(),
    version: z.number(),
    since: z
      .number()
      .openapi({ description: 'Since this version everything recorded means the same' }),
    readyMade: z
      .boolean()
      .openapi({ description: 'It came with Hurrel: it is copied to be changed' }),
    archived: z.boolean().openapi({ description: 'Put away: not offered for anything new' }),
    modelled: z.boolean().openapi({ description: 'Its circuit is described: it can be heard' }),
    patches: z.number(),
    updatedAt: z.string(),
  })
  .openapi('InstrumentSummary');
const stored = storedSchema('instrument', instrumentDocument).openapi('StoredInstrument');
const standing = z.object({ version: z.number(), since: z.number() });
const source = z.custom<InstrumentSource>().openapi({ type: 'object' });
const edition = z.object({ edition: z.coerce.number().int().min(1).max(1e9).optional() });

/** JSON Schemas of the open file formats, made from the schemas that the server itself checks with. */
const files = {
  'instrument.json': instrumentSchema,
  'patch.json': patchSchema,
  'pattern.json': patternSchema,
  'session.json': sessionSchema,
} as const;
const fileNames = Object.keys(files) as [keyof typeof files, ...(keyof typeof files)[]];

export const instrumentRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments',
        responses: json(z.object({ items: z.array(summary) }), 'All instruments'),
      }),
      async (c) => {
        const all = await services.instruments.all();
        const units = await services.units.countBy('instrumentId');
        const patches = await services.patches.countBy('instrumentId');
        return c.json(
          {
            items: all.map(({ instrument, version, since, archived, updatedAt }) => ({
              id: instrument.id,
              maker: instrument.maker,
              name: instrument.name,
              summary: instrument.summary,
              // Of a cabinet, those of the modules that stand in it.
              controls: panelOf(instrument).controls.length,
              units: units.get(instrument.id) ?? 0,
              patches: patches.get(instrument.id) ?? 0,
              version,
              since,
              readyMade: services.instruments.readyMade.has(instrument.id),
              archived,
              modelled: hasCircuit(instrument),
              updatedAt,
            })),
          },
          200,
        );
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/instruments',
        request: { body: body(source) },
        responses: created(instrumentDocument, 'The instrument that was stored'),
      }),
      async (c) => {
        const { instrument } = await services.instruments.add(c.req.valid('json'));
        c.header('ETag', etag(1));
        return c.json(instrument, 201);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}',
        request: { params: idParam, query: edition },
        responses: json(
          instrumentDocument,
          'An instrument: its newest description, or that in which what was recorded in an edition means what it did',
        ),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        const { edition } = c.req.valid('query');
        if (edition !== undefined)
          return c.json(await services.instruments.of({ instrument: id, edition }), 200);
        const { instrument, version } = await services.instruments.get(id);
        c.header('ETag', etag(version));
        return c.json(instrument, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/stored',
        request: { params: idParam },
        responses: json(stored, 'An instrument with its version'),
      }),
      async (c) => {
        const found = await services.instruments.get(c.req.valid('param').id);
        c.header('ETag', etag(found.version));
        return c.json(found, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/standing',
        request: { params: idParam },
        responses: json(standing, 'Its newest version, and since which everything means the same'),
      }),
      async (c) => c.json(await services.instruments.standing(c.req.valid('param').id), 200),
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/instruments/{id}/away',
        request: { params: idParam, body: body(z.strictObject({ away: z.boolean() })) },
        responses: json(
          z.object({ away: z.boolean() }),
          'Put away, or taken out again: it is kept for what was recorded on it',
        ),
      }),
      async (c) => {
        const { away } = c.req.valid('json');
        await services.instruments.putAway(c.req.valid('param').id, away);
        return c.json({ away }, 200);
      },
    )
    .route(
      '/',
      changeRoutes({
        path: 'instruments',
        store: services.instruments,
        // Read by the store, which names every fault of it.
        document: instrumentDocument,
        stored,
        differences: (before: Instrument, after: Instrument) =>
          instrumentDifferences(before, after),
      }),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/skeletons',
        responses: json(
          z.object({ items: z.array(z.custom<Skeleton>().openapi({ type: 'object' })) }),
          'Circuits to begin from, with the words by which their parameters are recognised',
        ),
      }),
      (c) => c.json({ items: [...services.skeletons] }, 200),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/schemas/{file}',
        request: { params: z.object({ file: z.enum(fileNames) }) },
        responses: json(z.record(z.string(), z.unknown()), 'JSON Schema of a file format'),
      }),
      (c) => {
        const { file } = c.req.valid('param');
        const schema = z.toJSONSchema(files[file], { io: 'input', target: 'draft-2020-12' });
        return c.json(schema as Record<string, unknown>, 200);
      },
    );
