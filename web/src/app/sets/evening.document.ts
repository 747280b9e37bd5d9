import { inject } from '@angular/core';
import { type Evening, eveningDifferences, eveningSchema, mergeEvenings } from '@hurrel/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import { API } from '../api/client';
import type { DocumentKind, DocumentSides, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';
import { overHttp } from '../document/over-http';

/** Sets need nothing to be shown with. */
type EveningContext = Record<string, never>;
export type EveningState = DocumentState<Evening, EveningContext>;

function eveningKind(api = inject(API)): DocumentKind<Evening, EveningContext> {
  const one = api.evenings[':id'];
  return overHttp(
    'evening',
    {
      get: (id) => one.$get({ param: { id } }),
      put: (id, match, json) => one.$put({ param: { id }, header: { 'if-match': match }, json }),
      version: (id, number) => one.versions[':number'].$get({ param: { id, number } }),
    },
    (source) => eveningSchema.parse(source),
    () => Promise.resolve({}),
    mergeEvenings,
  );
}

export const eveningSides: DocumentSides<Evening> = {
  differences: eveningDifferences,
  merge: mergeEvenings,
};

export const EveningActions = documentActions<Evening, EveningContext>('Evening');
const reducer: ActionReducer<EveningState> = documentReducer(EveningActions);
export const eveningFeature = createFeature({ name: 'evening', reducer });
export const eveningEffects = documentEffects({
  kind: () => eveningKind(),
  actions: EveningActions,
  select: eveningFeature.selectEveningState,
});
