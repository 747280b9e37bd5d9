// npm run stage: the server for the devices of the band: on this network, over HTTPS, with a passcode.
import { randomInt } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ensureReady, fail, root } from './lib.mjs';

/** The passcode: one's own, or one that is made once and kept beside the library. */
function passcode() {
  if (process.env.HURREL_PASSCODE) return process.env.HURREL_PASSCODE;
  const file = join(
    dirname(process.env.HURREL_DB ?? join(process.cwd(), 'data', 'hurrel.db')),
    'passcode',
  );
  if (existsSync(file)) return readFileSync(file, 'utf8').trim();
  const made = String(randomInt(10 ** 8)).padStart(8, '0');
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, `${made}\n`, { mode: 0o600 });
  return made;
}

try {
  process.chdir(root);
  await ensureReady();
  process.env.HOST ??= '0.0.0.0';
  if (!process.env.HURREL_CERT) process.env.HURREL_TLS ??= '1';
  process.env.HURREL_PASSCODE = passcode();
} catch (error) {
  fail(error);
}
await import('../server/dist/main.js');
