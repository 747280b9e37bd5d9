// npm run test:browser: Playwright against the built application.
import './under-newer-node.mjs';
import { ensureBuilt, ensureChromium, fail, run } from './lib.mjs';

try {
  const chromium = await ensureChromium();
  await ensureBuilt();
  process.exit(
    await run(
      'npx',
      ['--no-install', 'playwright', 'test', '-c', 'e2e', ...process.argv.slice(2)],
      {
        env: { HURREL_CHROMIUM: chromium },
      },
    ),
  );
} catch (error) {
  fail(error);
}
