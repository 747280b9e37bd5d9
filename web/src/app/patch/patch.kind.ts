import { inject } from '@angular/core';
import {
  diffPatches,
  faceOf,
  type Instrument,
  mergePatches,
  type Patch,
  patchSchema,
} from '@hurrel/core';
import {
  answer,
  API,
  ApiError,
  type Instrument as Definition,
  type StoredPatch,
} from '../api/client';
import type { DocumentKind, DocumentSides, Stored } from '../document/document';

/** A patch as the document that it is. */
export const documentOf = ({ id, version, updatedAt, patch }: StoredPatch): Stored<Patch> => ({
  id,
  version,
  updatedAt,
  document: patch,
});

/** Patches: read with the definition of their instrument. */
export function patchKind(api = inject(API)): DocumentKind<Patch, Instrument> {
  const read = api.patches[':id'];
  return {
    name: 'patch',
    parse: (source) => patchSchema.parse(source),
    async read(id) {
      const stored = await answer<StoredPatch>(read.$get({ param: { id } }));
      const context = await answer<Definition>(
        api.instruments[':id'].$get({ param: { id: stored.patch.instrument } }),
      );
      return { stored: documentOf(stored), context };
    },
    async readVersion(id, version) {
      const number = String(version);
      const param = { param: { id, number } };
      return (await answer<StoredPatch>(read.versions[':number'].$get(param))).patch;
    },
    async write({ id, version }, patch) {
      const header = { 'if-match': `"${version}"` };
      return documentOf(
        await answer<StoredPatch>(read.$put({ param: { id }, header, json: patch })),
      );
    },
    newer: (refusal) =>
      refusal instanceof ApiError && refusal.status === 412 && refusal.body.current
        ? documentOf(refusal.body.current as StoredPatch)
        : undefined,
  };
}

/** How two states of a patch are told apart and brought together. */
export const patchSides = (definition: Instrument): DocumentSides<Patch> => ({
  differences: (before, after) => diffPatches(faceOf(definition, after), before, after),
  merge: mergePatches,
});
