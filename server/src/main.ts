import { readFileSync } from 'node:fs';
import { createServer } from 'node:https';
import { dirname, join } from 'node:path';
import { serve } from '@hono/node-server';
import { createApp } from './app';
import { type Config, ConfigError, isLoopback, readConfig } from './config';
import { backupFolder, DailyBackups } from './db/backups';
import { openDatabase } from './db/database';
import { examine, LibraryError } from './db/examine';
import { copyLibrary } from './db/restore';
import { troubleOf } from './db/trouble';
import { loadDemo } from './demo/load';
import { localAddresses } from './network/addresses';
import { secureFor } from './network/certificate';
import { tellNetwork } from './network/tell';
import { oldNode } from './node-version';
import { root } from './root';
import { createServices } from './services';
import { storesByKind } from './store/stores';
import { serveWeb } from './web';
import { createWork } from './work/work';

async function main(): Promise<void> {
  const old = oldNode();
  if (old !== null) throw new ConfigError(old);
  const settings = readConfig(process.env);
  const config = { ...settings, ...(await tlsOf(settings)) };
  const found = examine(config.database);
  if (found.pending.length > 0) await copyBefore(config.database);
  const database = await openDatabase(config.database);
  const work = createWork(new URL('./worker.js', import.meta.url));
  const services = createServices(database, work);
  try {
    if (config.demo) await loadDemo(database, services);
    await services.takes.clear();
    await services.photographs.clear();
    await services.sounds.clear();
    await services.parcels.clear();
  } catch (error) {
    // What cannot be tidied up now is when there is room: what is there can be read.
    if (found.isNew || !troubleOf(error)) throw error;
  }
  const { state, says } = await database.storage.state();
  if (state !== 'well') console.error(says);
  const backups = new DailyBackups(database);
  backups.start();
  const app = createApp(services, config);
  serveWeb(app, join(root, 'web/dist/browser'));
  const where = { fetch: app.fetch, port: config.port, hostname: config.host };
  const { tls } = config;
  const secured = tls ? { createServer, serverOptions: { key: tls.key, cert: tls.cert } } : {};
  const server = serve({ ...where, ...secured } as typeof where, (info) => {
    const host = info.family === 'IPv6' ? `[${info.address}]` : info.address;
    const scheme = tls ? 'https' : 'http';
    console.log(`Hurrel is ready on ${scheme}://${host}:${info.port}`);
    if (!isLoopback(config.host)) void tellNetwork(scheme, info.port, config.passcode);
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
    for (const { news } of Object.values(storesByKind(services))) news.close();
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

/** The certificate that is wanted, made where there is none yet. */
async function tlsOf({ wantsTls, database }: Config): Promise<Pick<Config, 'tls'>> {
  if (!wantsTls) return {};
  if (wantsTls === 'made') {
    const names = ['localhost', '127.0.0.1', ...localAddresses()];
    return { tls: await secureFor(join(dirname(database), 'certificate'), names) };
  }
  try {
    const [key, cert] = [readFileSync(wantsTls.key, 'utf8'), readFileSync(wantsTls.cert, 'utf8')];
    return { tls: { key, cert } };
  } catch (error) {
    throw new ConfigError(`HURREL_KEY or HURREL_CERT: ${(error as Error).message}.`);
  }
}

/** A library of before is copied as it was, before its tables are changed. */
async function copyBefore(file: string): Promise<void> {
  const now = new Date().toISOString().replace(/[:.]/g, '-');
  await copyLibrary(file, join(backupFolder(file), `before-update-${now}.db`));
}

main().catch((error: unknown) => {
  const known = error instanceof ConfigError || error instanceof LibraryError;
  const says = known ? error.message : (troubleOf(error)?.says ?? error);
  console.error('Hurrel could not start:', says);
  process.exit(1);
});
