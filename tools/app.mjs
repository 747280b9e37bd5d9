// The built application over a library of its own, and a browser, for the scripts that look at it.
import './under-newer-node.mjs';
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { ensureBuilt, ensureChromium, root } from './lib.mjs';

const ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];

/** Starts the server over a database file; gives its address and how to end it. */
async function startServer(database) {
  const server = spawn('node', [join(root, 'server/dist/main.js')], {
    cwd: root,
    env: { ...process.env, PORT: '0', HURREL_DB: database },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise((ready, failed) => {
    server.stdout.on('data', (data) => {
      const found = /ready on (http:\S+)/.exec(data.toString())?.[1];
      if (found) ready(found);
    });
    server.on('exit', () => failed(new Error('The server could not be started.')));
  });
  const stop = async () => {
    const gone = new Promise((done) => server.once('exit', done));
    server.kill('SIGTERM');
    await gone;
  };
  return { url, stop };
}

/** Runs work with a server whose library has been filled by `fill(file)` in between. */
export async function withLibrary(fill, work) {
  await ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-'));
  const database = join(folder, 'app.db');
  await (await startServer(database)).stop();
  fill(database);
  const { url, stop } = await startServer(database);
  try {
    return await work(url);
  } finally {
    await stop();
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Starts server and browser, runs the work with them, ends both. */
export async function withApp(work) {
  const executablePath = await ensureChromium();
  await ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-'));
  const { url, stop } = await startServer(join(folder, 'app.db'));
  const browser = await chromium.launch({ executablePath, args: ARGS });
  try {
    const { items } = await (await fetch(`${url}/api/v1/patches`)).json();
    return await work({ url, browser, idOf: (name) => items.find((p) => p.name === name).id });
  } finally {
    await browser.close();
    await stop();
    rmSync(folder, { recursive: true, force: true });
  }
}
