// The built application over a library of its own, and a browser, for the scripts that look at it.
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

/** Starts server and browser, runs the work with them, ends both. */
export async function withApp(work) {
  const executablePath = await ensureChromium();
  await ensureBuilt();
  const folder = mkdtempSync(join(tmpdir(), 'hurrel-'));
  const server = spawn('node', [join(root, 'server/dist/main.js')], {
    cwd: root,
    env: { ...process.env, PORT: '0', HURREL_DB: join(folder, 'app.db') },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise((ready, failed) => {
    server.stdout.on('data', (data) => {
      const found = /ready on (http:\S+)/.exec(data.toString())?.[1];
      if (found) ready(found);
    });
    server.on('exit', () => failed(new Error('The server could not be started.')));
  });
  const browser = await chromium.launch({ executablePath, args: ARGS });
  try {
    const { items } = await (await fetch(`${url}/api/v1/patches`)).json();
    return await work({ url, browser, idOf: (name) => items.find((p) => p.name === name).id });
  } finally {
    await browser.close();
    server.kill('SIGTERM');
    await new Promise((done) => server.once('exit', done));
    rmSync(folder, { recursive: true, force: true });
  }
}
