// npm start: everything that is needed, then the server, in this process (or the newer Node's in its place) so that Ctrl-C
// reaches it.
import { ensureReady, fail, root } from './lib.mjs';

try {
  process.chdir(root);
  await ensureReady();
} catch (error) {
  fail(error);
}
await import('../server/dist/main.js');
