import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { type Action, Store } from '@ngrx/store';
import equal from 'fast-deep-equal';
import {
  catchError,
  concatMap,
  debounceTime,
  exhaustMap,
  filter,
  from,
  map,
  of,
  switchMap,
  tap,
  timer,
} from 'rxjs';
import { concatLatestFrom } from '@ngrx/operators';
import {
  answer,
  API,
  type ApiClient,
  type ApiError,
  type Instrument,
  type StoredPatch,
} from '../api/client';
import { dropDraft, findDraft, keepDraft } from './draft';
import { PatchActions } from './patch.actions';
import { patchFeature } from './patch.reducer';

/** Quiet time after an edit before it is saved. */
const QUIET_MS = 350;
/** Time between two tries while the server does not answer. */
const RETRY_MS = 2000;

const EDITS = [
  PatchActions.setControl,
  PatchActions.setControls,
  PatchActions.note,
  PatchActions.change,
  PatchActions.mend,
  PatchActions.panel,
  PatchActions.reshape,
  PatchActions.undo,
  PatchActions.redo,
  PatchActions.resolveConflict,
] as const;

export const openPatch = createEffect(
  (actions = inject(Actions), api = inject(API)) =>
    actions.pipe(
      ofType(PatchActions.open),
      switchMap(({ id }) =>
        from(readPatch(api, id)).pipe(
          concatMap((actions) => actions),
          catchError((error: ApiError) => of(PatchActions.openFailed({ message: error.message }))),
        ),
      ),
    ),
  { functional: true },
);

async function readPatch(api: ApiClient, id: string): Promise<Action[]> {
  const stored = await answer<StoredPatch>(api.patches[':id'].$get({ param: { id } }));
  const instrument = await answer<Instrument>(
    api.instruments[':id'].$get({ param: { id: stored.patch.instrument } }),
  );
  const draft = findDraft(id);
  if (!draft || equal(draft.patch, stored.patch))
    return [PatchActions.opened({ stored, instrument })];
  const opened = PatchActions.opened({ stored, instrument, draft: draft.patch });
  // Somebody else went on meanwhile: the person decides, as with any other stale edit.
  return draft.version === stored.version
    ? [opened, PatchActions.save()]
    : [opened, PatchActions.conflict({ theirs: stored })];
}

/** Every edit is in the browser's storage before anything else can happen to it. */
export const keepDrafts = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(...EDITS),
      concatLatestFrom(() => store.select(patchFeature.selectPatchState)),
      tap(([, { id, present, stored }]) => {
        if (!id || !present || !stored) return;
        if (equal(present, stored.patch)) dropDraft(id);
        else keepDraft(id, { version: stored.version, patch: present });
      }),
    ),
  { functional: true, dispatch: false },
);

export const saveSoon = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(...EDITS),
      debounceTime(QUIET_MS),
      map(() => PatchActions.save()),
    ),
  { functional: true },
);

export const save = createEffect(
  (actions = inject(Actions), store = inject(Store), api = inject(API)) =>
    actions.pipe(
      ofType(PatchActions.save),
      concatLatestFrom(() => store.select(patchFeature.selectPatchState)),
      filter(
        ([, s]) =>
          s.present !== null &&
          s.stored !== null &&
          s.save.kind !== 'conflict' &&
          !equal(s.present, s.stored.patch),
      ),
      exhaustMap(([, { id, present, stored }]) => {
        store.dispatch(PatchActions.saving());
        const request = api.patches[':id'].$put(
          { param: { id: id! }, header: { 'if-match': `"${stored!.version}"` }, json: present! },
          { headers: { 'if-match': `"${stored!.version}"` } },
        );
        return from(answer<StoredPatch>(request)).pipe(
          map((saved) => PatchActions.saved({ stored: saved })),
          catchError((error: ApiError) => of(whyNotSaved(error))),
        );
      }),
    ),
  { functional: true },
);

function whyNotSaved(error: ApiError): Action {
  if (error.status === 412 && error.body.current) {
    return PatchActions.conflict({ theirs: error.body.current });
  }
  return error.offline || error.status >= 500
    ? PatchActions.saveOffline()
    : PatchActions.saveRefused({ message: error.message });
}

/** What was edited while a save was under way is saved next; a kept draft is dropped once nothing is left. */
export const afterSave = createEffect(
  (actions = inject(Actions), store = inject(Store)) =>
    actions.pipe(
      ofType(PatchActions.saved, PatchActions.replaced),
      concatLatestFrom(() => store.select(patchFeature.selectPatchState)),
      tap(([, s]) => {
        if (s.id && s.present && equal(s.present, s.stored?.patch)) dropDraft(s.id);
      }),
      filter(([, s]) => s.present !== null && !equal(s.present, s.stored?.patch)),
      debounceTime(QUIET_MS),
      map(() => PatchActions.save()),
    ),
  { functional: true },
);

export const tryAgain = createEffect(
  (actions = inject(Actions)) =>
    actions.pipe(
      ofType(PatchActions.saveOffline),
      switchMap(() => timer(RETRY_MS)),
      map(() => PatchActions.save()),
    ),
  { functional: true },
);
