import { resolve } from 'node:path';
import { ConfigError, readConfig } from './config';
import { LibraryError } from './db/examine';
import { copyLibrary, restore } from './db/restore';
import { troubleOf } from './db/trouble';
import { oldNode } from './node-version';

const USAGE = `npm run backup -- FILE    copies the library to FILE, also while the server runs
npm run restore -- FILE   puts FILE into the library's place, which must be empty
The library is HURREL_DB, or data/hurrel.db.`;

async function main([command, file]: string[]): Promise<void> {
  if ((command !== 'backup' && command !== 'restore') || file === undefined) {
    throw new LibraryError(USAGE);
  }
  const old = oldNode();
  if (old !== null) throw new ConfigError(old);
  const { database } = readConfig(process.env);
  const path = resolve(process.cwd(), file);
  if (command === 'backup') await copyLibrary(database, path);
  else await restore(path, database);
  console.log(
    command === 'backup'
      ? `The library is copied to ${path}.`
      : `${path} is the library at ${database} now.`,
  );
}

main(process.argv.slice(2)).catch((error: unknown) => {
  const known = error instanceof LibraryError || error instanceof ConfigError;
  console.error(known ? error.message : (troubleOf(error)?.says ?? error));
  process.exit(1);
});
