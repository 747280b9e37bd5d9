// npm run backup, npm run restore: the library as one file, out and in.
import { ensureReady, fail } from './lib.mjs';

try {
  await ensureReady();
} catch (error) {
  fail(error);
}
await import('../server/dist/library.js');
