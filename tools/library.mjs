// npm run backup, npm run restore: the library as one file, out and in.
import { ensureBuilt, ensureInstalled, fail } from './lib.mjs';

try {
  await ensureInstalled();
  await ensureBuilt();
} catch (error) {
  fail(error);
}
await import('../server/dist/library.js');
