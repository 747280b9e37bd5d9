import { existsSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { serveStatic } from '@hono/node-server/serve-static';
import type { OpenAPIHono } from '@hono/zod-openapi';

/** Names that the build gave: of what is styled or stands alone, and of pieces that were joined. */
const HASHED = /-[A-Z0-9]{8}\.|\/(main|polyfills|chunk)-[a-z0-9]{8}\.js$/;

/** Serves the built interface; every address that is no file and no API is a page of it. */
export function serveWeb(app: OpenAPIHono, folder: string): void {
  const index = join(folder, 'index.html');
  if (!existsSync(index)) {
    app.get('*', (c) => c.text('The interface has not been built yet: run npm start.', 503));
    return;
  }
  const page = readFileSync(index, 'utf8');
  app.get('/', (c) => c.html(page, 200, { 'cache-control': 'no-cache' }));
  app.get(
    '*',
    async (c, next) => {
      await next();
      if (c.res.headers.has('cache-control')) return;
      // Names with a hash in them never change what they hold.
      const hashed = HASHED.test(c.req.path);
      c.header('cache-control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
    },
    serveStatic({
      root: relative(process.cwd(), folder) || '.',
      // The build left a smaller one beside each file: nothing is compressed while somebody waits.
      precompressed: true,
    }),
  );
  app.get('*', (c) => c.html(page, 200, { 'cache-control': 'no-cache' }));
}
