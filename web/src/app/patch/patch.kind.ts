import { inject } from '@angular/core';
import {
  diffPatches,
  panelOf,
  type Instrument,
  mergePatches,
  type Patch,
  patchSchema,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { API, type StoredPatch } from '../api/client';
import { descriptionFor } from '../api/description';
import { overHttp } from '../document/over-http';
import type { DocumentKind, DocumentSides, Stored } from '../document/document';

/** A patch as the document that it is. */
export const documentOf = ({ id, version, updatedAt, patch }: StoredPatch): Stored<Patch> => ({
  id,
  version,
  updatedAt,
  document: patch,
});

const standsOn = ({ edition, rack, revision }: Patch): unknown => [edition, rack, revision];

/** Patches: read with the definition of their instrument. */
export function patchKind(api = inject(API)): DocumentKind<Patch, Instrument> {
  const one = api.patches[':id'];
  return overHttp(
    'patch',
    {
      get: (id) => one.$get({ param: { id } }),
      put: (id, match, json) => one.$put({ param: { id }, header: { 'if-match': match }, json }),
      version: (id, number) => one.versions[':number'].$get({ param: { id, number } }),
    },
    (source) => patchSchema.parse(source),
    (patch) => descriptionFor(api, patch),
    (base, mine, theirs, choose) => {
      const merge = mergePatches(base, mine, theirs, choose);
      // On another description the same places mean something else: somebody has to look.
      const moved = base !== null && !equal(standsOn(base), standsOn(theirs));
      return moved ? { ...merge, conflicts: [...merge.conflicts, '/edition'] } : merge;
    },
  );
}

/** How two states of a patch are told apart and brought together. */
export const patchSides = (definition: Instrument): DocumentSides<Patch> => ({
  differences: (before, after) => diffPatches(panelOf(definition, after), before, after),
  merge: mergePatches,
});
