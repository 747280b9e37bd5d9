import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** What every bundle with a Zod schema in it says. */
const SCHEMA = '"ZodObject"';

/**
 * Workers compute and are begun on every page: none may make schemas, which takes as long as all else that it reads. Throws
 * where one does: something that computes takes more than types from a schema's file.
 */
export function noSchemasInWorkers(folder) {
  const workers = readdirSync(folder).filter((name) => /^worker-[A-Z0-9]{8}\.js$/.test(name));
  if (workers.length === 0) throw new Error(`There is no worker in ${folder}.`);
  for (const name of workers)
    if (readFileSync(join(folder, name), 'utf8').includes(SCHEMA))
      throw new Error(
        `${name} makes schemas: what computes imports only types from a schema's file (docs/testing.md).`,
      );
}
