import { createRoute, z } from '@hono/zod-openapi';
import {
  applyVariation,
  beforeShown,
  type Instrument,
  panelOf,
  panelAtInit,
  type Patch,
  panelAtStart,
} from '@hurrel/core';
import { invalid } from '../problem';
import { idParam, json, router, type Services } from './shared';

const query = z.object({
  from: z
    .string()
    .regex(/^[A-Za-z0-9-]{1,64}$/, 'not an id, start or init')
    .default('start'),
  /** With `shown`: the panel of which unit, or of which instrument. */
  panel: z
    .string()
    .regex(/^(unit|instrument)-[A-Za-z0-9-]{1,64}$/, 'expected unit- or instrument- and an id')
    .optional(),
  variation: z
    .string()
    .regex(/^[a-z0-9-]{1,48}$/, 'not an id of a variation')
    .optional(),
});

export const sheetRoutes = (services: Services) =>
  router().openapi(
    createRoute({
      method: 'get',
      path: '/patches/{id}/sheet.pdf',
      request: { params: idParam, query },
      responses: {
        ...json(z.any(), ''),
        200: {
          description: 'One A4 page: panel and movements',
          content: { 'application/pdf': { schema: z.string().openapi({ format: 'binary' }) } },
        },
      },
    }),
    async (c) => {
      const { from, variation, panel: stood } = c.req.valid('query');
      const { patch: base, version } = await services.patches.get(c.req.valid('param').id);
      const patch = variation === undefined ? base : varied(base, variation, '/query/variation');
      const instrument = panelOf(await services.instruments.of(patch), patch);
      const before =
        from === 'shown'
          ? await panelShown(services, stood ?? `instrument-${base.instrument}`, instrument, patch)
          : await panelFrom(services, from, base);
      const panel =
        before.panel ?? (from === 'init' ? panelAtInit(instrument) : panelAtStart(instrument));
      const { signal } = c.req.raw;
      const plan = await services.work.do('rebuild', { instrument, before: panel, patch }, signal);
      const content = { instrument, patch, plan, from: before.name, version };
      const pdf = await services.work.do('sheet', content, signal);
      return c.body(pdf as Uint8Array<ArrayBuffer>, 200, {
        'content-type': 'application/pdf',
        'content-disposition': `inline; filename="${patch.name.replace(/[^\w -]/g, '_')}.pdf"`,
      }) as never;
    },
  );

/** A patch in one of its variations, named after it. */
function varied(patch: Patch, id: string, pointer: string): Patch {
  const variation = patch.variations.find((v) => v.id === id);
  if (!variation) {
    throw invalid([{ pointer, message: `The patch has no variation "${id}".` }]);
  }
  // Places to listen tell of the patch itself: a variation sounds otherwise.
  return {
    ...applyVariation(patch, variation),
    name: `${patch.name}: ${variation.name}`,
    checkpoints: [],
  };
}

/** What a panel shows now; its start when nobody knows. */
async function panelShown(services: Services, panel: string, instrument: Instrument, patch: Patch) {
  const shown = await services.shown.get(panel);
  if (!shown) return { name: 'the instrument’s start' };
  return { name: shown.name, panel: beforeShown(shown, instrument, patch) };
}

async function panelFrom(services: Services, from: string, base: Patch) {
  if (from === 'base') return { name: base.name, panel: base };
  if (from.startsWith('variation-')) {
    const panel = varied(base, from.slice(10), '/query/from');
    return { name: panel.name, panel };
  }
  if (from === 'start') return { name: 'the instrument’s start' };
  if (from === 'init') return { name: 'its init patch' };
  const other = await services.patches.get(from);
  if (other.patch.instrument !== base.instrument) {
    throw invalid([{ pointer: '/query/from', message: 'That patch is for another instrument.' }]);
  }
  return { name: other.patch.name, panel: await services.instruments.onto(other.patch, base) };
}
