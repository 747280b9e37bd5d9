// npm run dev: rebuilds what changes. The server starts anew, the page is to be reloaded.
import './under-newer-node.mjs';
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { context } from 'esbuild';
import { audioOptions } from './build-audio.mjs';
import { serverOptions } from './build-server.mjs';
import { ensurePackages, root } from './lib.mjs';

process.chdir(root);
await ensurePackages();
let server;
const restart = {
  name: 'restart',
  setup(build) {
    build.onEnd(({ errors }) => {
      if (errors.length > 0) return;
      server?.kill('SIGTERM');
      server = spawn('node', ['server/dist/main.js'], { stdio: 'inherit' });
    });
  },
};
const audio = await context(audioOptions);
await audio.watch();
const web = spawn('npx', ['--no-install', 'architect', 'web:build:development', '--watch'], {
  cwd: join(root, 'web'),
  stdio: 'inherit',
});
const watching = await context({ ...serverOptions, plugins: [restart] });
await watching.watch();
process.on('SIGINT', async () => {
  web.kill();
  server?.kill('SIGTERM');
  await watching.dispose();
  await audio.dispose();
  process.exit(0);
});
