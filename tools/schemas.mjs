// Writes docs/schemas from the schemas that the server checks with, and docs/modules.md from the catalogue of modules.
// `--check` only compares.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { fail, root } from './lib.mjs';
import { modulesPage } from './modules-page.mjs';

try {
  const outfile = join(root, '.cache', 'schemas.mjs');
  await build({
    stdin: {
      contents: `import { z } from 'zod'; import { chordTypes, families, instrumentSchema, patchSchema, patternSchema, sessionSchema } from '@hurrel/core';
        const make = (s) => z.toJSONSchema(s, { io: 'input', target: 'draft-2020-12' });
        export { chordTypes, families };
        export const schemas = { instrument: make(instrumentSchema), patch: make(patchSchema), pattern: make(patternSchema), session: make(sessionSchema) };`,
      resolveDir: join(root, 'core'),
    },
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
    alias: { '@hurrel/core': join(root, 'core/src/index.ts') },
  });
  const { schemas, families, chordTypes } = await import(pathToFileURL(outfile).href);
  mkdirSync(join(root, 'docs/schemas'), { recursive: true });
  const files = Object.entries(schemas).map(([name, schema]) => [
    `docs/schemas/${name}.json`,
    `${JSON.stringify(schema, null, 2)}\n`,
  ]);
  files.push(['docs/modules.md', modulesPage(families, chordTypes)]);
  for (const [name, text] of files) {
    const path = join(root, name);
    if (!process.argv.includes('--check')) writeFileSync(path, text);
    else if (!existsSync(path) || readFileSync(path, 'utf8') !== text) {
      throw new Error(`${name} is not what the code says: run npm run schemas.`);
    }
  }
} catch (error) {
  fail(error);
}
