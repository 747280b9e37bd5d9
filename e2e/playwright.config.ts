import { defineConfig } from '@playwright/test';
import '../tools/under-newer-node.mjs';

/** Chromium without a network of its own; sound without a hand on the page. */
export const chromiumArgs = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
];

export default defineConfig({
  testDir: '.',
  outputDir: '../.cache/e2e',
  timeout: 120_000,
  expect: { timeout: 20_000 },
  // One more than cores: a page waits for the server, for sound and for a hand now and then.
  workers: 3,
  fullyParallel: true,
  // A second try would hide what the first one found.
  retries: 0,
  reporter: process.env.HURREL_REPORT
    ? [['list'], ['json', { outputFile: process.env.HURREL_REPORT }]]
    : [['list']],
  use: {
    browserName: 'chromium',
    viewport: { width: 1280, height: 800 },
    trace: 'off',
    // Each page would fetch the whole application for later; the test of that allows it.
    serviceWorkers: 'block',
    launchOptions: {
      executablePath: process.env.HURREL_CHROMIUM ?? '/usr/bin/chromium',
      args: chromiumArgs,
    },
  },
});
