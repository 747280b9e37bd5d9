// npm run build: server bundle, then the interface, then the published JSON Schemas.
import './under-newer-node.mjs';
import { utimesSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildAudio } from './build-audio.mjs';
import { buildServer } from './build-server.mjs';
import { joinChunks } from './join-chunks.mjs';
import { fail, root, run, unchecked } from './lib.mjs';
import { noSchemasInWorkers } from './no-schemas.mjs';
import { precompress } from './precompress.mjs';

process.chdir(root);
try {
  await buildServer();
  await buildAudio();
  const quick = process.env.NG_BUILD_TYPE_CHECK === '0';
  const how = quick ? ['--ts-config', 'tsconfig.unchecked.json'] : [];
  const code = await run('npx', ['--no-install', 'architect', 'web:build', ...how], {
    cwd: join(root, 'web'),
    env: { NG_CLI_ANALYTICS: 'false', npm_config_loglevel: 'error' },
  });
  if (code !== 0) throw new Error('The interface could not be built.');
  noSchemasInWorkers(join(root, 'web/dist/browser'));
  await joinChunks('web/dist/browser', 'web/ngsw-config.json');
  if (quick) writeFileSync(unchecked, '');
  precompress(join(root, 'web/dist/browser'));
  // Both are as new as the later one: sources are compared with the older.
  const now = new Date();
  for (const path of ['server/dist/main.js', 'web/dist/browser/index.html']) {
    utimesSync(join(root, path), now, now);
  }
} catch (error) {
  fail(error);
}
