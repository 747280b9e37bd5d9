import { inject } from '@angular/core';
import {
  type Instrument,
  instrumentSchema,
  mergeInstruments,
  pieceDifferences,
} from '@hurrel/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import { API } from '../api/client';
import { overHttp } from '../document/over-http';
import type { DocumentKind, DocumentSides, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';

/** An instrument is shown with itself alone. */
export type InstrumentState = DocumentState<Instrument, object>;

function instrumentKind(api = inject(API)): DocumentKind<Instrument, object> {
  const one = api.instruments[':id'];
  return overHttp(
    'instrument',
    {
      get: (id) => one.stored.$get({ param: { id } }),
      put: (id, match, json) => one.$put({ param: { id }, header: { 'if-match': match }, json }),
      version: (id, number) => one.versions[':number'].$get({ param: { id, number } }),
    },
    (source) => instrumentSchema.parse(source),
    async () => ({}),
    mergeInstruments,
  );
}

export const instrumentSides = (): DocumentSides<Instrument> => ({
  differences: pieceDifferences,
  merge: mergeInstruments,
});

export const InstrumentActions = documentActions<Instrument, object>('Instrument');
const reducer: ActionReducer<InstrumentState> = documentReducer(InstrumentActions);
export const instrumentFeature = createFeature({ name: 'instrument', reducer });
export const instrumentEffects = documentEffects({
  kind: () => instrumentKind(),
  actions: InstrumentActions,
  select: instrumentFeature.selectInstrumentState,
});
