import { createRoute, z } from '@hono/zod-openapi';
import {
  applyVariation,
  beforeShown,
  panelOf,
  panelAtInit,
  type Patch,
  panelAtStart,
  type Shown,
} from '@hurrel/core';
import { invalid } from '../problem';
import { askedBy, idParam, json, router, type Services } from './shared';
import { standingBefore } from './standing-before';

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
  /** Before which one stands: readings are its own; `printed` for one of which nothing was measured. */
  unit: z
    .string()
    .regex(/^[A-Za-z0-9-]{1,64}$/, 'not an id of a unit, or printed')
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
      const { from, variation, panel: stood, unit } = c.req.valid('query');
      const { patch: base, version } = await services.patches.get(c.req.valid('param').id);
      const recorded = variation === undefined ? base : varied(base, variation, '/query/variation');
      const instrument = panelOf(await services.instruments.of(recorded), recorded);
      const before =
        from === 'shown'
          ? await panelShown(services, stood ?? `instrument-${base.instrument}`)
          : await panelFrom(services, from, base);
      const there = await standingBefore(services, unit, [base, before.recorded]);
      const patch = there.reads(recorded, instrument);
      const panel = before.recorded
        ? there.reads(before.recorded, instrument)
        : before.shown
          ? beforeShown(before.shown, instrument, patch)
          : from === 'init'
            ? panelAtInit(instrument)
            : panelAtStart(instrument);
      const asked = askedBy(c);
      const plan = await services.work.do(
        'rebuild',
        { instrument, before: panel, patch, ...(there.unit ? { unit: there.unit } : {}) },
        asked,
      );
      const content = {
        ...{ instrument, patch, plan, from: before.name, version },
        ...there.says(recorded, instrument),
      };
      const pdf = await services.work.do('sheet', content, asked);
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

/** What stood on a panel before, by name: a patch, what it shows now, or neither. */
interface Before {
  name: string;
  recorded?: Patch;
  shown?: Shown;
}

/** What a panel shows now; its start when nobody knows. */
async function panelShown(services: Services, panel: string): Promise<Before> {
  const shown = await services.shown.get(panel);
  return shown ? { name: shown.name, shown } : { name: 'the instrument’s start' };
}

async function panelFrom(services: Services, from: string, base: Patch): Promise<Before> {
  if (from === 'base') return { name: base.name, recorded: base };
  if (from.startsWith('variation-')) {
    const recorded = varied(base, from.slice(10), '/query/from');
    return { name: recorded.name, recorded };
  }
  if (from === 'start') return { name: 'the instrument’s start' };
  if (from === 'init') return { name: 'its init patch' };
  const other = await services.patches.get(from);
  if (other.patch.instrument !== base.instrument) {
    throw invalid([{ pointer: '/query/from', message: 'That patch is for another instrument.' }]);
  }
  return { name: other.patch.name, recorded: await services.instruments.onto(other.patch, base) };
}
