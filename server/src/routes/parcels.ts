import { Readable } from 'node:stream';
import { createRoute, z } from '@hono/zod-openapi';
import { gather } from '../parcel/gather';
import { pack } from '../parcel/pack';
import { body, fileOf, json, router, type Services } from './shared';
import { bodyOf } from './takes';

const list = z
  .string()
  .max(20_000)
  .regex(/^[A-Za-z0-9-]+(,[A-Za-z0-9-]+)*$/, 'expected ids with commas between them')
  .transform((text) => text.split(','))
  .optional();
const wanted = z.object({
  patches: list,
  instruments: list,
  units: list,
  sessions: list,
  evenings: list,
});
const kind = z.enum(['instrument', 'unit', 'patch', 'session', 'evening']);
const looked = z.object({
  token: z.string(),
  library: z.boolean().openapi({
    description: 'It is a whole library: it can also be put in the place of what is here',
  }),
  items: z.array(
    z.object({
      key: z.string(),
      kind,
      id: z.string(),
      name: z.string(),
      standing: z.enum(['new', 'same', 'conflict', 'removed']),
      mergeable: z.boolean().openapi({ description: 'Its differences can be taken one by one' }),
      differences: z.array(
        z.object({
          pointer: z.string(),
          subject: z.string(),
          before: z.string(),
          after: z.string(),
        }),
      ),
    }),
  ),
});
const token = z.object({ token: z.uuid() });

/** Documents as files: out in one zip, in after a look. */
export const parcelRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/parcel.zip',
        request: { query: wanted },
        responses: fileOf(
          'application/zip',
          'A zip of what is wanted and what belongs to it, or of everything',
        ),
      }),
      async (c) => {
        const packed = await gather(services, c.req.valid('query'));
        const now = new Date();
        const name = packed.length === 1 ? packed[0]!.item.id : now.toISOString().slice(0, 10);
        return c.body(Readable.toWeb(pack(packed, now)) as unknown as ReadableStream, 200, {
          'content-type': 'application/zip',
          'content-disposition': `attachment; filename="hurrel-${name}.zip"`,
        }) as never;
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/parcels',
        request: { body: { content: { 'application/octet-stream': { schema: z.any() } } } },
        responses: json(looked, 'What a file brings, beside what is here; nothing is stored'),
      }),
      async (c) => c.json(await services.parcels.receive(bodyOf(c.req.raw)), 200),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/parcels/{token}',
        request: { params: token },
        responses: json(
          z.object({ done: z.number(), total: z.number() }),
          'How far taking in has come',
        ),
      }),
      (c) => c.json(services.parcels.progress(c.req.valid('param').token), 200),
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/parcels/{token}',
        request: {
          params: token,
          body: body(
            z.strictObject({
              decisions: z
                .record(z.string().max(120), z.enum(['mine', 'theirs', 'both', 'merged', 'out']))
                .default({}),
              picks: z
                .record(z.string().max(120), z.array(z.string().max(200)).max(1000))
                .default({})
                .openapi({ description: 'Of what is merged, the differences taken as they come' }),
            }),
          ),
        },
        responses: json(
          z.object({ stored: z.number(), shortened: z.array(z.string()) }),
          'All of it was stored, as was decided',
        ),
      }),
      async (c) => {
        const { decisions, picks } = c.req.valid('json');
        const { token } = c.req.valid('param');
        return c.json(await services.parcels.takeIn(token, decisions, picks), 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/parcels/{token}/library',
        request: { params: token },
        responses: json(
          z.object({ copy: z.string().openapi({ description: 'File on the server' }) }),
          'The library that was sent is in the place of what was here, of which a copy was made first',
        ),
      }),
      async (c) => c.json(await services.parcels.putInPlace(c.req.valid('param').token), 200),
    )
    .openapi(
      createRoute({
        method: 'delete',
        path: '/parcels/{token}',
        request: { params: token },
        responses: json(z.object({ dropped: z.string() }), 'The file was put down'),
      }),
      async (c) => {
        const { token } = c.req.valid('param');
        await services.parcels.drop(token);
        return c.json({ dropped: token }, 200);
      },
    );
