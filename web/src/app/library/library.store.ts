import { inject } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  emptyProps,
  on,
  props,
} from '@ngrx/store';
import { catchError, from, map, of, switchMap } from 'rxjs';
import {
  answer,
  API,
  type ApiClient,
  type ApiError,
  type InstrumentSummary,
  type PatchSummary,
} from '../api/client';
import { type Page, PAGE_SIZE, readAll } from '../api/pages';

export interface LibraryFilter {
  q: string;
  song: string;
  role: string;
  instrument: string;
}

export const LibraryActions = createActionGroup({
  source: 'Library',
  events: {
    Load: emptyProps(),
    Loaded: props<{ patches: PatchSummary[]; instruments: InstrumentSummary[] }>(),
    'Load Failed': props<{ message: string }>(),
    Filter: props<{ filter: Partial<LibraryFilter> }>(),
  },
});

interface LibraryState {
  patches: PatchSummary[];
  instruments: InstrumentSummary[];
  loaded: boolean;
  error: string | null;
  filter: LibraryFilter;
}

const nothing: LibraryFilter = { q: '', song: '', role: '', instrument: '' };
const initial: LibraryState = {
  patches: [],
  instruments: [],
  loaded: false,
  error: null,
  filter: nothing,
};

const unique = (values: string[]): string[] => [...new Set(values.filter(Boolean))].sort();

/** Words of a search, all of which must be found, anywhere. */
function fits(patch: PatchSummary, filter: LibraryFilter): boolean {
  const text = `${patch.name} ${patch.song} ${patch.role} ${patch.about}`.toLowerCase();
  return (
    filter.q
      .toLowerCase()
      .split(/\s+/)
      .every((word) => text.includes(word)) &&
    (filter.song === '' || patch.song === filter.song) &&
    (filter.role === '' || patch.role === filter.role) &&
    (filter.instrument === '' || patch.instrument === filter.instrument)
  );
}

export const libraryFeature = createFeature({
  name: 'library',
  reducer: createReducer(
    initial,
    on(LibraryActions.loaded, (state, { patches, instruments }): LibraryState => ({
      ...state,
      patches,
      instruments,
      loaded: true,
      error: null,
    })),
    on(LibraryActions.loadFailed, (state, { message }): LibraryState => ({
      ...state,
      error: message,
    })),
    on(LibraryActions.filter, (state, { filter }): LibraryState => ({
      ...state,
      filter: { ...state.filter, ...filter },
    })),
  ),
  extraSelectors: ({ selectPatches, selectFilter }) => ({
    selectSongs: createSelector(selectPatches, (patches) => unique(patches.map((p) => p.song))),
    selectRoles: createSelector(selectPatches, (patches) => unique(patches.map((p) => p.role))),
    /** What is left by the filter, by song. */
    selectGroups: createSelector(selectPatches, selectFilter, (patches, filter) => {
      const groups = new Map<string, PatchSummary[]>();
      for (const patch of patches.filter((p) => fits(p, filter))) {
        groups.set(patch.song, [...(groups.get(patch.song) ?? []), patch]);
      }
      return [...groups].map(([song, items]) => ({ song, items }));
    }),
  }),
});

/** All instruments and patches. */
async function readLibrary(api: ApiClient) {
  const { items: instruments } = await answer<{ items: InstrumentSummary[] }>(
    api.instruments.$get(),
  );
  const patches = await readAll((page) =>
    answer<Page<PatchSummary>>(api.patches.$get({ query: { page, size: String(PAGE_SIZE) } })),
  );
  return LibraryActions.loaded({ patches, instruments });
}

export const loadLibrary = createEffect(
  (actions = inject(Actions), api = inject(API)) =>
    actions.pipe(
      ofType(LibraryActions.load),
      switchMap(() =>
        from(readLibrary(api)).pipe(
          map((action) => action),
          catchError((error: ApiError) =>
            of(LibraryActions.loadFailed({ message: error.message })),
          ),
        ),
      ),
    ),
  { functional: true },
);
