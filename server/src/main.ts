import { serve } from '@hono/node-server';
import { createApp } from './app';
import { ConfigError, readConfig } from './config';
import { openDatabase } from './db/database';
import { loadDemo } from './demo/load';
import { createRenderer } from './render/renderer';
import { InstrumentStore } from './store/instruments';
import { PatchStore } from './store/patches';
import { ProgressStore } from './store/progress';
import { SessionStore } from './store/sessions';
import { UnitStore } from './store/units';
import { serveWeb } from './web';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const database = await openDatabase(config.database);
  const instruments = new InstrumentStore(database);
  const patches = new PatchStore(database, instruments);
  const units = new UnitStore(database, instruments);
  const sessions = new SessionStore(database);
  if (config.demo) await loadDemo(instruments, patches, units, sessions);
  const renderer = createRenderer(new URL('./render-worker.js', import.meta.url));
  const services = {
    instruments,
    patches,
    units,
    sessions,
    progress: new ProgressStore(database),
    renderer,
  };
  const app = createApp(services, config);
  serveWeb(app, new URL('../../web/dist/browser', import.meta.url).pathname);
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
