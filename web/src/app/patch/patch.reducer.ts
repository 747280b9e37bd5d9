import { type ActionReducer, createFeature, createReducer, createSelector, on } from '@ngrx/store';
import {
  applyMend,
  applyVariation,
  faceOf,
  type Instrument,
  type Patch,
  type Setting,
  variationFrom,
  withoutCables,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import type { StoredPatch } from '../api/client';
import { PatchActions } from './patch.actions';

/** How far the edits are kept. */
export type SaveState =
  | { kind: 'saved' }
  | { kind: 'waiting' }
  | { kind: 'saving' }
  | { kind: 'offline' }
  | { kind: 'refused'; message: string }
  | { kind: 'conflict'; theirs: StoredPatch };

export interface PatchState {
  id: string | null;
  /** The instrument as it is described. */
  definition: Instrument | null;
  /** The panel one stands before: of a cabinet, its modules as this patch has them. */
  instrument: Instrument | null;
  /** Newest version that the server is known to hold. */
  stored: StoredPatch | null;
  present: Patch | null;
  /** Variation that is shown and edited instead of the patch itself. */
  variation: string | null;
  past: Patch[];
  future: Patch[];
  /** Gesture that made the newest step of the past. */
  gesture: string | null;
  save: SaveState;
  /** Edits since the last version that was kept. */
  changes: number;
  error: string | null;
}

export const initialState: PatchState = {
  id: null,
  definition: null,
  instrument: null,
  stored: null,
  present: null,
  variation: null,
  past: [],
  future: [],
  gesture: null,
  save: { kind: 'saved' },
  changes: 0,
  error: null,
};

const MOST_STEPS = 500;

/** Takes an edit: one more step back, nothing to redo, something to save. An edit that changes nothing is none. */
function edited(state: PatchState, next: Patch, gesture?: string): PatchState {
  if (!state.present || equal(state.present, next)) return state;
  const goesOn = gesture !== undefined && gesture === state.gesture;
  return {
    ...state,
    present: next,
    past: goesOn ? state.past : [...state.past, state.present].slice(-MOST_STEPS),
    future: [],
    gesture: gesture ?? null,
    ...pending(state, next, goesOn),
  };
}

function pending(
  state: PatchState,
  next: Patch,
  sameStep = false,
): Pick<PatchState, 'save' | 'changes'> {
  if (state.save.kind === 'conflict') return { save: state.save, changes: state.changes + 1 };
  if (state.stored && equal(next, state.stored.patch) && state.save.kind !== 'saving') {
    return { save: { kind: 'saved' }, changes: 0 };
  }
  const save: SaveState =
    state.save.kind === 'saving' || state.save.kind === 'offline'
      ? state.save
      : { kind: 'waiting' };
  return { save, changes: state.changes + (sameStep && state.changes > 0 ? 0 : 1) };
}

const withSettings = (patch: Patch, changes: Record<string, Setting | null>): Patch => {
  const settings = { ...patch.settings };
  for (const [id, setting] of Object.entries(changes)) {
    if (setting) settings[id] = setting;
    else delete settings[id];
  }
  return { ...patch, settings };
};

/** Keeps the panel in step with the patch: a cabinet's modules stand where the present patch has them. */
const withFace =
  (reducer: ActionReducer<PatchState>): ActionReducer<PatchState> =>
  (before, action) => {
    const state = reducer(before, action);
    if (!state.definition || !state.present) return state;
    const instrument = faceOf(state.definition, state.present);
    return instrument === state.instrument ? state : { ...state, instrument };
  };

/** A patch with fields changed; what becomes undefined is taken out. */
function withChanges(patch: Patch, changes: Partial<Patch>): Patch {
  const next: Record<string, unknown> = { ...patch, ...changes };
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
  return next as Patch;
}

/** The panel as it is shown: the patch, or one of its variations. */
export function shownPatch(patch: Patch | null, variation: string | null): Patch | null {
  const found = patch?.variations.find((v) => v.id === variation);
  return patch && found ? applyVariation(patch, found) : patch;
}

/**
 * Takes an edit of what is shown. While that is a variation, what departs from the patch is kept in it, and all else goes
 * to the patch itself.
 */
function editedShown(
  state: PatchState,
  edit: (shown: Patch) => Patch,
  gesture?: string,
): PatchState {
  const { present, variation } = state;
  const shown = shownPatch(present, variation);
  if (!present || !shown) return state;
  const next = edit(shown);
  const found = present.variations.find((v) => v.id === variation);
  if (!found) {
    const gone = present.cables.filter((c) => !next.cables.some((k) => k.id === c.id));
    return edited(
      state,
      withoutCables(
        next,
        gone.map((c) => c.id),
      ),
      gesture,
    );
  }
  const { settings, cables, matrix } = present;
  const base = { ...next, settings, cables, matrix, variations: present.variations };
  const kept = variationFrom(present, next, found);
  return edited(
    state,
    { ...base, variations: base.variations.map((v) => (v.id === variation ? kept : v)) },
    gesture,
  );
}

export const patchFeature = createFeature({
  name: 'patch',
  reducer: withFace(
    createReducer(
      initialState,
      on(PatchActions.open, (_, { id }): PatchState => ({ ...initialState, id })),
      on(PatchActions.close, (): PatchState => initialState),
      on(PatchActions.openFailed, (state, { message }): PatchState => ({
        ...state,
        error: message,
      })),
      on(PatchActions.opened, (state, { stored, instrument, draft }): PatchState => {
        const opened: PatchState = {
          ...state,
          id: stored.id,
          definition: instrument,
          instrument,
          stored,
          present: stored.patch,
        };
        return draft ? edited(opened, draft) : opened;
      }),
      on(PatchActions.setControl, (state, { control, setting, gesture }) =>
        editedShown(state, (shown) => withSettings(shown, { [control]: setting }), gesture),
      ),
      on(PatchActions.setControls, (state, { settings }) =>
        editedShown(state, (shown) => withSettings(shown, settings)),
      ),
      on(PatchActions.panel, (state, { changes, gesture }) =>
        editedShown(state, (shown) => ({ ...shown, ...changes }), gesture),
      ),
      on(PatchActions.reshape, (state, { patch }) => editedShown(state, () => patch)),
      on(PatchActions.showVariation, (state, { variation }): PatchState => ({
        ...state,
        variation,
        gesture: null,
      })),
      on(PatchActions.note, (state, { key, text, gesture }) => {
        if (!state.present) return state;
        const notes = { ...state.present.notes };
        if (text.trim() === '') delete notes[key];
        else notes[key] = text;
        return edited(state, { ...state.present, notes }, gesture);
      }),
      on(PatchActions.change, (state, { changes, gesture }) =>
        state.present ? edited(state, withChanges(state.present, changes), gesture) : state,
      ),
      on(PatchActions.mend, (state, { mend }) =>
        editedShown(state, (shown) => applyMend(shown, mend)),
      ),
      on(PatchActions.undo, (state): PatchState => {
        const before = state.past.at(-1);
        if (!before || !state.present) return state;
        return {
          ...state,
          present: before,
          past: state.past.slice(0, -1),
          future: [state.present, ...state.future],
          gesture: null,
          ...pending(state, before),
        };
      }),
      on(PatchActions.redo, (state): PatchState => {
        const [after, ...future] = state.future;
        if (!after || !state.present) return state;
        return {
          ...state,
          present: after,
          past: [...state.past, state.present],
          future,
          gesture: null,
          ...pending(state, after),
        };
      }),
      on(PatchActions.saving, (state): PatchState => ({ ...state, save: { kind: 'saving' } })),
      on(PatchActions.saved, (state, { stored }): PatchState => {
        // Edits made while the request was under way are still to be saved.
        const done = state.present !== null && equal(state.present, stored.patch);
        return {
          ...state,
          stored,
          save: done ? { kind: 'saved' } : { kind: 'waiting' },
          changes: done ? 0 : 1,
        };
      }),
      on(PatchActions.saveOffline, (state): PatchState => ({
        ...state,
        save: { kind: 'offline' },
      })),
      on(PatchActions.saveRefused, (state, { message }): PatchState => ({
        ...state,
        save: { kind: 'refused', message },
      })),
      on(PatchActions.conflict, (state, { theirs }): PatchState => ({
        ...state,
        save: { kind: 'conflict', theirs },
      })),
      on(PatchActions.resolveConflict, (state, { patch, theirs }): PatchState => {
        const based: PatchState = { ...state, stored: theirs, save: { kind: 'saved' }, changes: 0 };
        return equal(patch, state.present)
          ? { ...based, ...pending(based, patch) }
          : edited(based, patch);
      }),
      on(PatchActions.replaced, (state, { stored }): PatchState => {
        const next = edited(state, stored.patch);
        return { ...next, stored, save: { kind: 'saved' }, changes: 0 };
      }),
    ),
  ),
  extraSelectors: ({ selectPast, selectFuture, selectPresent, selectStored, selectVariation }) => ({
    selectShown: createSelector(selectPresent, selectVariation, shownPatch),
    selectCanUndo: createSelector(selectPast, (past) => past.length > 0),
    selectCanRedo: createSelector(selectFuture, (future) => future.length > 0),
    selectDirty: createSelector(
      selectPresent,
      selectStored,
      (present, stored) => present !== null && stored !== null && !equal(present, stored.patch),
    ),
  }),
});
