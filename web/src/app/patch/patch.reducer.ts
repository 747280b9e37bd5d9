import { type ActionReducer, createFeature, createReducer, createSelector, on } from '@ngrx/store';
import {
  applyMend,
  applyVariation,
  hasCircuit,
  panelOf,
  type Instrument,
  type Patch,
  type Setting,
  variationFrom,
  withoutCables,
  withRowsTrue,
} from '@hurrel/core';
import { closedDocument, type DocumentState } from '../document/document';
import { documentReducer, edited, isDirty } from '../document/document.reducer';
import { PatchActions } from './patch.actions';

/** An open patch. Its context is the instrument as it is described. */
export interface PatchState extends DocumentState<Patch, Instrument> {
  /** The panel one stands before: of a cabinet, its modules as this patch has them. */
  instrument: Instrument | null;
  /** Variation that is shown and edited instead of the patch itself. */
  variation: string | null;
}

export const initialState: PatchState = { ...closedDocument, instrument: null, variation: null };

const withSettings = (patch: Patch, changes: Record<string, Setting | null>): Patch => {
  const settings = { ...patch.settings };
  for (const [id, setting] of Object.entries(changes)) {
    if (setting) settings[id] = setting;
    else delete settings[id];
  }
  return { ...patch, settings };
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
    const ids = gone.map((c) => c.id);
    return edited(state, agreed(state, withoutCables(next, ids)), gesture);
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

/** Knobs that are steps of a pattern say the same on the panel and in it. */
const agreed = ({ instrument, present }: PatchState, next: Patch): Patch =>
  instrument && present ? withRowsTrue(instrument, present, next) : next;

/** What only patches do. */
const ownReducer = createReducer(
  initialState,
  on(PatchActions.open, PatchActions.close, (state): PatchState => ({
    ...state,
    instrument: null,
    variation: null,
  })),
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
    state.present
      ? edited(state, agreed(state, withChanges(state.present, changes)), gesture)
      : state,
  ),
  on(PatchActions.mend, (state, { mend }) => editedShown(state, (shown) => applyMend(shown, mend))),
);

const anyReducer = documentReducer<Patch, Instrument>(PatchActions);

/** What happens to any document, then what is a patch's own; and the panel stays in step with the patch. */
const patchReducer: ActionReducer<PatchState> = (before = initialState, action) => {
  const { instrument, variation } = before;
  const any = anyReducer(before, action);
  const state = ownReducer(any === before ? before : { ...any, instrument, variation }, action);
  if (!state.context || !state.present) return state;
  const face = panelOf(state.context, state.present);
  return face === state.instrument ? state : { ...state, instrument: face };
};

export const patchFeature = createFeature({
  name: 'patch',
  reducer: patchReducer,
  extraSelectors: ({
    selectPast,
    selectFuture,
    selectInstrument,
    selectPresent,
    selectStored,
    selectVariation,
  }) => ({
    /** The circuit behind the panel is described; as long as that is not known it is taken to be. */
    selectModelled: createSelector(
      selectInstrument,
      (instrument) => !instrument || hasCircuit(instrument),
    ),
    selectShown: createSelector(selectPresent, selectVariation, shownPatch),
    selectCanUndo: createSelector(selectPast, (past) => past.length > 0),
    selectCanRedo: createSelector(selectFuture, (future) => future.length > 0),
    selectDirty: createSelector(selectPresent, selectStored, (present, stored) =>
      isDirty({ present, stored }),
    ),
  }),
});
