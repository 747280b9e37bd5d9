import { createRoute, z } from '@hono/zod-openapi';
import {
  hasCircuit,
  panelOf,
  instrumentSchema,
  type InstrumentSource,
  patchSchema,
  patternSchema,
  sessionSchema,
  type Skeleton,
} from '@hurrel/core';
import {
  body,
  created,
  etag,
  expectedVersion,
  idParam,
  ifMatchHeader,
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
    readyMade: z
      .boolean()
      .openapi({ description: 'It came with Hurrel: it is copied to be changed' }),
    modelled: z.boolean().openapi({ description: 'Its circuit is described: it can be heard' }),
    patches: z.number(),
  })
  .openapi('InstrumentSummary');
const versionItem = z.object({ number: z.number(), origin: z.string(), createdAt: z.string() });
const versionParam = idParam.extend({ number: z.coerce.number().int().min(1).max(1e9) });
const stored = z
  .object({
    id: z.string(),
    version: z.number(),
    createdAt: z.string(),
    updatedAt: z.string(),
    readyMade: z.boolean(),
    instrument: instrumentDocument,
  })
  .openapi('StoredInstrument');
const source = z.custom<InstrumentSource>().openapi({ type: 'object' });

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
        const all = await services.instruments.list();
        const units = await services.units.countBy('instrumentId');
        const patches = await services.patches.countBy('instrumentId');
        return c.json(
          {
            items: all.map(({ instrument, version, readyMade }) => ({
              id: instrument.id,
              maker: instrument.maker,
              name: instrument.name,
              summary: instrument.summary,
              // Of a cabinet, those of the modules that stand in it.
              controls: panelOf(instrument).controls.length,
              units: units.get(instrument.id) ?? 0,
              patches: patches.get(instrument.id) ?? 0,
              version,
              readyMade,
              modelled: hasCircuit(instrument),
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
        request: { params: idParam },
        responses: json(instrumentDocument, 'An instrument'),
      }),
      async (c) => {
        const { instrument, version } = await services.instruments.getStored(
          c.req.valid('param').id,
        );
        c.header('ETag', etag(version));
        return c.json(instrument, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/stored',
        request: { params: idParam },
        responses: json(stored, 'An instrument with its version, and whether it came with Hurrel'),
      }),
      async (c) => {
        const found = await services.instruments.getStored(c.req.valid('param').id);
        c.header('ETag', etag(found.version));
        return c.json(found, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/instruments/{id}',
        request: { params: idParam, headers: ifMatchHeader, body: body(source) },
        responses: json(stored, 'The new version'),
      }),
      async (c) => {
        const saved = await services.instruments.save(
          c.req.valid('param').id,
          expectedVersion(c.req.valid('header')['if-match']),
          c.req.valid('json'),
        );
        c.header('ETag', etag(saved.version));
        return c.json(saved, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/versions',
        request: { params: idParam },
        responses: json(z.object({ items: z.array(versionItem) }), 'Versions, newest first'),
      }),
      async (c) =>
        c.json({ items: await services.instruments.versions(c.req.valid('param').id) }, 200),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/versions/{number}',
        request: { params: versionParam },
        responses: json(stored, 'A version'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        return c.json(await services.instruments.version(id, number), 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/instruments/{id}/versions/{number}/restore',
        request: { params: versionParam, headers: ifMatchHeader },
        responses: json(stored, 'The old version as the newest'),
      }),
      async (c) => {
        const { id, number } = c.req.valid('param');
        const expected = expectedVersion(c.req.valid('header')['if-match']);
        const back = await services.instruments.goBack(id, expected, number);
        c.header('ETag', etag(back.version));
        return c.json(back, 200);
      },
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
