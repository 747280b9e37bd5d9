import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
// Before any schema is made: it adds to what all of them can do.
import '@hono/zod-openapi';
import { skeletonSchema } from '@hurrel/core';
import { root } from '../root';

/** Every document of a folder of the library, in the order of their names. */
const documents = (folder: string): unknown[] =>
  readdirSync(join(root, 'library', folder))
    .filter((name) => name.endsWith('.json'))
    .sort()
    .map((name) => JSON.parse(readFileSync(join(root, 'library', folder, name), 'utf8')));

/** The library that comes with the application: documents as they would be imported. */
export const demoInstruments = documents('instruments');
/** Circuits to begin from. */
export const skeletons = documents('skeletons').map((source) => skeletonSchema.parse(source));
/** Ids of the instruments that come with it: they stay as they are. */
export const readyMade: ReadonlySet<string> = new Set(
  demoInstruments.map((source) => (source as { id: string }).id),
);
export const demoPatches = documents('patches');

/** An instrument that was described in the application, in two versions, with a patch on the first that was carried over. */
export interface Described {
  descriptions: unknown[];
  patch: { before: object; after: object };
}
export const demoDescribed = documents('described') as Described[];

/** Recordings that some of its patches are fed with. */
export const demoSounds = (): Buffer[] => {
  const folder = join(root, 'library/sounds');
  return readdirSync(folder).map((name) => readFileSync(join(folder, name)));
};

/** Pictures that lie beneath the panels of those. */
export const demoPhotographs = (): Buffer[] => {
  const folder = join(root, 'library/described');
  const names = readdirSync(folder).filter((name) => name.endsWith('.jpg'));
  return names.map((name) => readFileSync(join(folder, name)));
};
