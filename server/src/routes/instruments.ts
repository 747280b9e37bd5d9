import { createRoute, z } from '@hono/zod-openapi';
import {
  panelOf,
  instrumentSchema,
  type InstrumentSource,
  patchSchema,
  patternSchema,
  sessionSchema,
} from '@hurrel/core';
import { body, created, idParam, instrumentDocument, json, router, type Services } from './shared';

const summary = z
  .object({
    id: z.string(),
    maker: z.string(),
    name: z.string(),
    summary: z.string(),
    controls: z.number(),
    units: z.number(),
  })
  .openapi('InstrumentSummary');

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
        return c.json(
          {
            items: all.map((instrument) => ({
              id: instrument.id,
              maker: instrument.maker,
              name: instrument.name,
              summary: instrument.summary,
              // Of a cabinet, those of the modules that stand in it.
              controls: panelOf(instrument).controls.length,
              units: units.get(instrument.id) ?? 0,
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
        request: { body: body(z.custom<InstrumentSource>().openapi({ type: 'object' })) },
        responses: created(instrumentDocument, 'The instrument that was stored'),
      }),
      async (c) => c.json(await services.instruments.add(c.req.valid('json')), 201),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}',
        request: { params: idParam },
        responses: json(instrumentDocument, 'An instrument'),
      }),
      async (c) => c.json(await services.instruments.get(c.req.valid('param').id), 200),
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
