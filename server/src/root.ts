import { fileURLToPath } from 'node:url';

/** The project's folder: as far from this file as from the bundle that it goes into. */
export const root = fileURLToPath(new URL('../../', import.meta.url));
