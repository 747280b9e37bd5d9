import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../root';

/** Every document of a folder of the library, in the order of their names. */
const documents = (folder: string): unknown[] =>
  readdirSync(join(root, 'library', folder))
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => JSON.parse(readFileSync(join(root, 'library', folder, name), 'utf8')));

/** The library that comes with the application: documents as they would be imported. */
export const demoInstruments = documents('instruments');
export const demoPatches = documents('patches');
