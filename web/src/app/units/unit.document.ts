import { inject } from '@angular/core';
import {
  panelOf,
  type Instrument,
  mergeUnits,
  type Unit,
  unitDifferences,
  unitSchema,
} from '@hurrel/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import { API } from '../api/client';
import { newestDescription } from '../api/description';
import { overHttp } from '../document/over-http';
import type { DocumentKind, DocumentSides, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';

/** Units are shown with the panel of their instrument. */
export type UnitState = DocumentState<Unit, Instrument>;

function unitKind(api = inject(API)): DocumentKind<Unit, Instrument> {
  const one = api.units[':id'];
  return overHttp(
    'unit',
    {
      get: (id) => one.$get({ param: { id } }),
      put: (id, match, json) => one.$put({ param: { id }, header: { 'if-match': match }, json }),
      version: (id, number) => one.versions[':number'].$get({ param: { id, number } }),
    },
    (source) => unitSchema.parse(source),
    async ({ instrument }) => panelOf(await newestDescription(api, instrument)),
    mergeUnits,
  );
}

export const unitSides = (instrument: Instrument): DocumentSides<Unit> => ({
  differences: (before, after) => unitDifferences(instrument, before, after),
  merge: mergeUnits,
});

export const UnitActions = documentActions<Unit, Instrument>('Unit');
const reducer: ActionReducer<UnitState> = documentReducer(UnitActions);
export const unitFeature = createFeature({ name: 'unit', reducer });
export const unitEffects = documentEffects({
  kind: () => unitKind(),
  actions: UnitActions,
  select: unitFeature.selectUnitState,
});
