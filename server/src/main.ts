import { join } from 'node:path';
import { serve } from '@hono/node-server';
import { createApp } from './app';
import { ConfigError, readConfig } from './config';
import { backupFolder, DailyBackups } from './db/backups';
import { openDatabase } from './db/database';
import { examine, LibraryError } from './db/examine';
import { copyLibrary } from './db/restore';
import { loadDemo } from './demo/load';
import { root } from './root';
import { createServices } from './services';
import { serveWeb } from './web';
import { createWork } from './work/work';

async function main(): Promise<void> {
  const config = readConfig(process.env);
  const found = examine(config.database);
  if (found.pending.length > 0) await copyBefore(config.database);
  const database = await openDatabase(config.database);
  const work = createWork(new URL('./worker.js', import.meta.url));
  const services = createServices(database, work);
  if (config.demo) await loadDemo(database, services);
  await services.takes.clear();
  await services.photographs.clear();
  await services.parcels.clear();
  const backups = new DailyBackups(database);
  backups.start();
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
    // Whoever listens would keep the door open.
    services.walks.told.close();
    if ('closeIdleConnections' in server) server.closeIdleConnections();
    await Promise.race([
      new Promise((done) => server.close(done)),
      new Promise((done) => setTimeout(done, 3000).unref()),
    ]);
    backups.stop();
    await work.close();
    await database.close();
    console.log('Hurrel has stopped; the library is closed.');
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
}

/** A library of before is copied as it was, before its tables are changed. */
async function copyBefore(file: string): Promise<void> {
  const now = new Date().toISOString().replace(/[:.]/g, '-');
  await copyLibrary(file, join(backupFolder(file), `before-update-${now}.db`));
}

main().catch((error: unknown) => {
  const known = error instanceof ConfigError || error instanceof LibraryError;
  console.error('Hurrel could not start:', known ? error.message : error);
  process.exit(1);
});
