import { createRoute, z } from '@hono/zod-openapi';
import {
  certainOf,
  type Evening,
  type HandTimes,
  learnedTimes,
  type PanelBefore,
  type Recorded,
  shownOf,
  unitsNamed,
} from '@hurrel/core';
import { Problem } from '../problem';
import { measuredOf } from './measured';
import { askedBy, idParam, json, router, type Services } from './shared';

/** A set as a booklet to print. */
export const bookletRoutes = (services: Services) =>
  router().openapi(
    createRoute({
      method: 'get',
      path: '/evenings/{id}/booklet.pdf',
      request: { params: idParam },
      responses: {
        ...json(z.any(), ''),
        200: {
          description: 'A4 pages: the evening, a page a break, a page a panel',
          content: { 'application/pdf': { schema: z.string().openapi({ format: 'binary' }) } },
        },
      },
    }),
    async (c) => {
      const { id } = c.req.valid('param');
      const { evening } = await services.evenings.get(id);
      const [library, before, times] = await Promise.all([
        libraryOf(services, evening),
        shownBefore(services, evening),
        timesOf(services, id, evening),
      ]);
      const units = await measuredOf(services, unitsNamed(evening.panels, Object.values(library)));
      const content = { evening, library, before, times, units };
      const pdf = await services.work.do('booklet', content, askedBy(c));
      return c.body(pdf as Uint8Array<ArrayBuffer>, 200, {
        'content-type': 'application/pdf',
        'content-disposition': `inline; filename="${evening.name.replace(/[^\w -]/g, '_')}.pdf"`,
      }) as never;
    },
  );

/** The patches that a set names, each with its instrument; what is gone is left out. */
async function libraryOf(services: Services, evening: Evening): Promise<Record<string, Recorded>> {
  const library: Record<string, Recorded> = {};
  const wanted = new Set(evening.songs.flatMap((s) => s.plays.map((p) => p.patch)));
  for (const id of wanted) {
    try {
      const { patch } = await services.patches.get(id);
      library[id] = { patch, instrument: await services.instruments.of(patch) };
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
    }
  }
  return library;
}

/** What panels show now, as far as it is certain. */
async function shownBefore(
  services: Services,
  evening: Evening,
): Promise<Record<string, PanelBefore>> {
  const before: Record<string, PanelBefore> = {};
  for (const { id } of evening.panels) {
    const kept = shownOf(evening, id);
    const shown = kept === undefined ? null : await services.shown.get(kept);
    if (shown) before[id] = certainOf(shown);
  }
  return before;
}

async function timesOf(
  services: Services,
  id: string,
  { people }: Evening,
): Promise<Record<string, HandTimes>> {
  const timed = await services.walks.timed(id);
  return Object.fromEntries(
    people.flatMap((person) => {
      const { times, from } = learnedTimes(timed, person.id);
      return Object.keys(from).length > 0 ? [[person.id, times]] : [];
    }),
  );
}
