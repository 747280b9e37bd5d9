import { createRoute, z } from '@hono/zod-openapi';
import { panelOf, panelSvg } from '@hurrel/core';
import { etag, idParam, json, router, type Services } from './shared';

const svg = {
  ...json(z.any(), ''),
  200: {
    description: 'The panel, black on white',
    content: { 'image/svg+xml': { schema: z.string() } },
  },
};

/** Panels as pictures. */
export const pictureRoutes = (services: Services) =>
  router()
    .openapi(
      createRoute({
        method: 'get',
        path: '/instruments/{id}/panel.svg',
        request: { params: idParam },
        responses: svg,
      }),
      async (c) => {
        const { instrument, version } = await services.instruments.get(c.req.valid('param').id);
        return picture(c, panelSvg(panelOf(instrument)), version);
      },
    )
    .openapi(
      createRoute({
        method: 'get',
        path: '/patches/{id}/panel.svg',
        request: { params: idParam },
        responses: svg,
      }),
      async (c) => {
        const { patch, version } = await services.patches.get(c.req.valid('param').id);
        const instrument = panelOf(await services.instruments.of(patch), patch);
        return picture(c, panelSvg(instrument, patch), version);
      },
    );

interface Answering {
  req: { header(name: string): string | undefined };
  body(text: string | null, status: 200 | 304, headers: Record<string, string>): Response;
}

/** Pictures of a version never change: whoever has one is told so. */
function picture(c: Answering, text: string, version: number) {
  const tag = etag(version);
  const headers = { etag: tag, 'cache-control': 'no-cache' };
  const known = c.req.header('if-none-match')?.replace(/^W\//, '') === tag;
  const type = { 'content-type': 'image/svg+xml; charset=utf-8' };
  return (known ? c.body(null, 304, headers) : c.body(text, 200, { ...headers, ...type })) as never;
}
