// Writes docs/schemas from the schemas that the server checks with. `--check` only compares.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from 'esbuild';
import { fail, root } from './lib.mjs';

try {
  const outfile = join(root, '.cache', 'schemas.mjs');
  await build({
    stdin: {
      contents: `import { z } from 'zod'; import { instrumentSchema, patchSchema } from '@hurrel/core';
        const make = (s) => z.toJSONSchema(s, { io: 'input', target: 'draft-2020-12' });
        export const schemas = { instrument: make(instrumentSchema), patch: make(patchSchema) };`,
      resolveDir: join(root, 'core'),
    },
    outfile,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'error',
    alias: { '@hurrel/core': join(root, 'core/src/index.ts') },
  });
  const { schemas } = await import(pathToFileURL(outfile).href);
  mkdirSync(join(root, 'docs/schemas'), { recursive: true });
  for (const [name, schema] of Object.entries(schemas)) {
    const path = join(root, 'docs/schemas', `${name}.json`);
    const text = `${JSON.stringify(schema, null, 2)}\n`;
    if (!process.argv.includes('--check')) writeFileSync(path, text);
    else if (readFileSync(path, 'utf8') !== text) {
      throw new Error(
        `docs/schemas/${name}.json is not what the schema says: run npm run schemas.`,
      );
    }
  }
} catch (error) {
  fail(error);
}
