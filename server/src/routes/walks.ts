import { createRoute, z } from '@hono/zod-openapi';
import { type Marks, marksSchema, type Timed, walkBeforeSchema, walkKinds } from '@hurrel/core';
import type { Walk } from '../store/walks';
import { body, json, router, type Services } from './shared';
import { streamOf } from './stream';

/** What is sent at once: more than anybody ticks while there is no network. */
const MOST_AT_ONCE = 5000;

const param = z.object({ id: z.string().min(1).max(64) });
/** A schema of the core as OpenAPI tells it: 3.1 speaks JSON Schema. */
const told = (schema: z.ZodType) => {
  const { $schema: _, ...rest } = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' });
  return rest as object;
};
const text = { type: 'string' } as const;
const walkSchema = z.custom<Walk>().openapi('Walk', {
  type: 'object',
  description: 'A going through a set: on stage, or rehearsed',
  properties: {
    ...{ id: text, evening: text, kind: { type: 'string', enum: [...walkKinds] } },
    before: { ...told(walkBeforeSchema), description: 'What each panel showed when it began' },
    createdAt: text,
    endedAt: { type: ['string', 'null'] },
  },
  required: ['id', 'evening', 'kind', 'before', 'createdAt', 'endedAt'],
});
const saidSchema = z.custom<Marks>().openapi({
  ...told(marksSchema),
  type: 'object',
  description: 'What was said, by what it is said of',
});
const said = z.object({
  marks: marksSchema.refine(
    (marks) => Object.keys(marks).length <= MOST_AT_ONCE,
    `Send ${MOST_AT_ONCE} at once at most.`,
  ),
});

/** Walks through sets: begun, ticked from any device, heard by every other. */
export const walkRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/evenings/{id}/walks',
        request: { params: param },
        responses: json(z.object({ items: z.array(walkSchema) }), 'Walks, the latest first'),
      }),
      async (c) => c.json({ items: await services.walks.of(c.req.valid('param').id) }, 200),
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/evenings/{id}/walks',
        request: {
          params: param,
          body: body(z.strictObject({ kind: z.enum(walkKinds), before: walkBeforeSchema })),
        },
        responses: json(z.object({ walk: walkSchema }), 'The walk that goes on'),
      }),
      async (c) => {
        const { kind, before } = c.req.valid('json');
        const walk = await services.walks.begin(c.req.valid('param').id, kind, before);
        return c.json({ walk }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/evenings/{id}/timed',
        request: { params: param },
        responses: json(
          z.object({ items: z.array(z.custom<Timed>().openapi({ type: 'object' })) }),
          'Movements whose time was taken, oldest first',
        ),
      }),
      async (c) => c.json({ items: await services.walks.timed(c.req.valid('param').id) }, 200),
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/walks/{id}',
        request: { params: param },
        responses: json(z.object({ walk: walkSchema, marks: saidSchema }), 'A walk'),
      }),
      async (c) => {
        const { id } = c.req.valid('param');
        const walk = await services.walks.get(id);
        return c.json({ walk, marks: await services.walks.marks(id) }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/walks/{id}/marks',
        request: { params: param, body: body(said) },
        responses: json(z.object({ marks: saidSchema }), 'How the same things stand now'),
      }),
      async (c) => {
        const { marks } = c.req.valid('json');
        const stands = await services.walks.join(c.req.valid('param').id, marks);
        return c.json({ marks: stands }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/walks/{id}/end',
        request: { params: param },
        responses: json(z.object({ walk: walkSchema }), 'The walk, ended'),
      }),
      async (c) => c.json({ walk: await services.walks.end(c.req.valid('param').id) }, 200),
    );

/** What is news in a walk, as it is said: an endless answer that the typed client has no use for. */
export const walkStream = (services: Services) =>
  router().get('/walks/:id/stream', async (c) => {
    const walk = await services.walks.get(c.req.param('id'));
    return streamOf(c, services, (say, end) => [
      services.walks.told.listen(walk.id, (marks) =>
        marks === null ? end() : say('marks', JSON.stringify(marks)),
      ),
    ]);
  });
