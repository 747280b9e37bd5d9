import { createRoute, z } from '@hono/zod-openapi';
import {
  controlHeard,
  type Heard,
  type Instrument,
  type Patch,
  placeOfProgram,
  type Shown,
  shownHeardThen,
  shownLoaded,
  shownSchema,
  shownUnknown,
  slotAt,
  slotName,
  type Unit,
} from '@hurrel/core';
import { body, json, router, type Services } from './shared';

const param = z.object({
  panel: z
    .string()
    .regex(/^(unit|instrument)-[A-Za-z0-9-]{1,64}$/, 'expected unit- or instrument- and an id'),
});
const answered = z.object({
  shown: z.custom<Shown | null>().openapi({
    type: 'object',
    description: 'What the panel shows as far as is known; null when nothing is',
  }),
});
const asked = z.object({ shown: shownSchema });
const seven = z.number().int().min(0).max(127);
/** Seconds since it was heard: it may have waited for the server. */
const ago = z.number().min(0).max(1e9).default(0);
const heard = z
  .strictObject({
    moved: z
      .array(z.strictObject({ cc: seven, sent: seven, ago }))
      .max(128)
      .default([]),
    /** A place of its memory was chosen, before all that was moved: the program, and the bank as far as it was selected. */
    loaded: z
      .strictObject({ program: seven, coarse: seven.optional(), fine: seven.optional(), ago })
      .optional(),
  })
  .refine((h) => h.moved.length > 0 || h.loaded, { path: ['moved'], error: 'Nothing was heard.' });

/** The panel of a unit, or of an instrument that has none, as it is described now. */
async function panelOf(
  { units, instruments }: Services,
  panel: string,
): Promise<{ instrument: Instrument; unit?: Unit }> {
  const id = panel.slice(panel.indexOf('-') + 1);
  if (!panel.startsWith('unit-')) return { instrument: (await instruments.get(id)).instrument };
  const { unit } = await units.get(id);
  return { unit, instrument: (await instruments.get(unit.instrument)).instrument };
}

/** What was loaded from a place: its name, and the patch where the unit's memory map knows it. */
interface Loaded {
  at: string;
  name: string;
  patch?: { id: string; name: string; patch: Patch };
}

async function loadedFrom(
  { patches }: Services,
  { instrument, unit }: Awaited<ReturnType<typeof panelOf>>,
  { ago, ...program }: NonNullable<z.infer<typeof heard>['loaded']>,
): Promise<Loaded | undefined> {
  const place = placeOfProgram(instrument.memory, program);
  if (!place) return undefined;
  const { bank, slot } = place;
  const at = timeOf(ago);
  const name = `what ${slotName(instrument.memory, bank, slot)} holds`;
  const id = unit && slotAt(unit, bank, slot)?.patch;
  // A patch that is gone is no longer known either.
  const stored = id === undefined ? undefined : await patches.get(id).catch(() => undefined);
  if (stored?.patch.instrument !== instrument.id) return { at, name };
  return { at, name, patch: { id: stored.id, name: stored.patch.name, patch: stored.patch } };
}

const timeOf = (ago: number): string => new Date(Math.round(Date.now() - 1000 * ago)).toISOString();

/**
 * What a panel shows after something was loaded; told late, nobody knows what was done since, but where it is what the panel is
 * known to show: then it was told before.
 */
function afterLoaded(
  known: Shown | null,
  instrument: Instrument,
  { at, name, patch }: Loaded,
  since: string,
): Shown | null {
  if (known && at < since && (patch ? known.patch === patch.id : known.name === name)) return known;
  if (patch && at >= since) return shownLoaded(known, patch, at);
  return known && shownUnknown(known, instrument, at >= since ? name : known.name, at);
}

/** What a panel shows after what was heard; null where nothing comes of it. */
function afterHeard(
  known: Shown | null,
  instrument: Instrument,
  loaded: Loaded | undefined,
  moved: readonly (Heard & { at: string })[],
  since: string,
): { shown: Shown; since: string } | null {
  const stands = loaded ? afterLoaded(known, instrument, loaded, since) : known;
  if (!stands) return null;
  const times = [since, ...moved.map((m) => m.at), ...(loaded ? [loaded.at] : [])];
  // What was moved after the loading is news if the loading is.
  const shown = shownHeardThen(stands, moved, since);
  return { shown, since: times.reduce((last, at) => (at > last ? at : last)) };
}

export const shownRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/shown/{panel}',
        request: { params: param },
        responses: json(answered, 'What a panel shows now'),
      }),
      async (c) => c.json({ shown: await services.shown.get(c.req.valid('param').panel) }, 200),
    )
    .openapi(
      createRoute({
        method: 'put',
        path: '/shown/{panel}',
        request: { params: param, body: body(asked) },
        responses: json(answered, 'What a panel shows now'),
      }),
      async (c) => {
        const { shown } = c.req.valid('json');
        await services.shown.put(c.req.valid('param').panel, shown);
        return c.json({ shown }, 200);
      },
    )
    .openapi(
      createRoute({
        method: 'post',
        path: '/shown/{panel}/heard',
        request: { params: param, body: body(heard) },
        responses: json(
          answered,
          'What a panel shows now that its controls were heard to be moved, or a place of its memory to be chosen',
        ),
      }),
      async (c) => {
        const { panel } = c.req.valid('param');
        const asked = c.req.valid('json');
        const stood = await panelOf(services, panel);
        const { instrument } = stood;
        // A device sends more than its panel has: what none of its controls sends is left out.
        const moved = asked.moved.flatMap(({ cc, sent, ago }) => {
          const found = controlHeard(instrument.controls, cc, sent);
          return found ? [{ ...found, at: timeOf(ago) }] : [];
        });
        const loaded = asked.loaded && (await loadedFrom(services, stood, asked.loaded));
        const shown = await services.shown.change(panel, (known, since) =>
          afterHeard(known, instrument, loaded, moved, since),
        );
        return c.json({ shown }, 200);
      },
    );
