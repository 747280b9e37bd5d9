import { join } from 'node:path';
import { serve } from '@hono/node-server';
import { createApp } from './app';
import { ConfigError, readConfig } from './config';
import { openDatabase } from './db/database';
import { loadDemo } from './demo/load';
import { createRenderer } from './render/renderer';
import { root } from './root';
import { createServices } from './services';
import { serveWeb } from './web';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const database = await openDatabase(config.database);
  const renderer = createRenderer(new URL('./render-worker.js', import.meta.url));
  const services = createServices(database, renderer);
  if (config.demo) await loadDemo(services);
  const app = createApp(services, config);
  serveWeb(app, join(root, 'web/dist/browser'));
  const server = serve({ fetch: app.fetch, port: config.port, hostname: config.host }, (info) => {
    const host = info.family === 'IPv6' ? `[${info.address}]` : info.address;
    console.log(`Hurrel is ready on http://${host}:${info.port}`);
  });
  server.on('error', (error: NodeJS.ErrnoException) => {
    const taken = error.code === 'EADDRINUSE';
    console.error(
      taken ? `Port ${config.port} is in use: set PORT to another one.` : error.message,
    );
    process.exit(1);
  });

  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    if ('closeIdleConnections' in server) server.closeIdleConnections();
    await Promise.race([
      new Promise((done) => server.close(done)),
      new Promise((done) => setTimeout(done, 3000).unref()),
    ]);
    await renderer.close();
    await database.close();
    console.log('Hurrel has stopped; the library is closed.');
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

main().catch((error: unknown) => {
  if (error instanceof ConfigError) console.error(error.message);
  else console.error('Hurrel could not start:', error);
  process.exit(1);
});
