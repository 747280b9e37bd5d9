import { catalogue, type ModuleKind } from '@hurrel/core';

/** Every kind of module, in the order of the catalogue. */
export const KINDS = Object.keys(catalogue) as ModuleKind[];

/** A kind in words: `low pass 24`. */
export const kindText = (kind: string): string => kind.replace(/-/g, ' ');
