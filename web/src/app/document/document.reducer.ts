import { type ActionReducer, createReducer, on } from '@ngrx/store';
import equal from 'fast-deep-equal';
import { closedDocument, type DocumentState, type SaveState } from './document';
import type { DocumentActions } from './document.actions';

const MOST_STEPS = 500;

/** Takes an edit: one more step back, nothing to redo, something to save. An edit that changes nothing is none. */
export function edited<D, S extends DocumentState<D, unknown>>(
  state: S,
  next: D,
  gesture?: string,
): S {
  if (state.present === null || equal(state.present, next)) return state;
  const goesOn = gesture !== undefined && gesture === state.gesture;
  return {
    ...state,
    present: next,
    past: goesOn ? state.past : [...state.past, state.present].slice(-MOST_STEPS),
    future: [],
    gesture: gesture ?? null,
    stepping: false,
    ...pending(state, next, goesOn),
  };
}

function pending<D>(
  state: DocumentState<D, unknown>,
  next: D,
  sameStep = false,
): Pick<DocumentState<D, unknown>, 'save' | 'changes'> {
  if (state.save.kind === 'conflict') return { save: state.save, changes: state.changes + 1 };
  if (state.stored && equal(next, state.stored.document) && state.save.kind !== 'saving') {
    return { save: { kind: 'saved' }, changes: 0 };
  }
  const save: SaveState<D> =
    state.save.kind === 'saving' || state.save.kind === 'offline'
      ? state.save
      : { kind: 'waiting' };
  return { save, changes: state.changes + (sameStep && state.changes > 0 ? 0 : 1) };
}

/** One step back or forward: exactly what was there. */
function stepped<D, C>(state: DocumentState<D, C>, way: 'undo' | 'redo'): DocumentState<D, C> {
  const next = way === 'undo' ? state.past.at(-1) : state.future[0];
  if (next === undefined || state.present === null) return state;
  const lines =
    way === 'undo'
      ? { past: state.past.slice(0, -1), future: [state.present, ...state.future] }
      : { past: [...state.past, state.present], future: state.future.slice(1) };
  const steps = { present: next, gesture: null, stepping: true };
  return { ...state, ...lines, ...steps, ...pending(state, next) };
}

/** What happens to an open document, whatever its kind. */
export const documentReducer = <D, C>(
  actions: DocumentActions<D, C>,
): ActionReducer<DocumentState<D, C>> => {
  type State = DocumentState<D, C>;
  const closed: State = closedDocument;
  return createReducer<State>(
    closed,
    on(actions.open, (_, { id }): State => ({ ...closed, id })),
    on(actions.close, (): State => closed),
    on(actions.openFailed, (state, { message, damage = null }): State => ({
      ...state,
      error: message,
      damage,
    })),
    on(actions.opened, (state, { stored, context, draft }): State => {
      if (state.id !== stored.id) return state;
      const opened: State = {
        ...state,
        error: null,
        damage: null,
        context,
        stored,
        present: stored.document,
      };
      return draft ? edited(opened, draft.document) : opened;
    }),
    on(actions.edit, (state, { next, gesture }): State => edited(state, next, gesture)),
    on(actions.undo, (state): State => stepped(state, 'undo')),
    on(actions.redo, (state): State => stepped(state, 'redo')),
    on(actions.rest, (state): State => ({ ...state, gesture: null })),
    on(actions.saving, (state): State => ({ ...state, save: { kind: 'saving' } })),
    on(actions.saved, (state, { stored }): State => {
      // Another document was opened meanwhile.
      if (state.id !== stored.id) return state;
      // Edits made while the request was under way are still to be saved.
      const done = equal(state.present, stored.document);
      return {
        ...state,
        stored,
        save: done ? { kind: 'saved' } : { kind: 'waiting' },
        changes: done ? 0 : 1,
      };
    }),
    on(actions.saveOffline, (state, { reached }): State => ({
      ...state,
      save: { kind: 'offline', reached },
    })),
    on(actions.saveRefused, (state, { message }): State => ({
      ...state,
      save: { kind: 'refused', message },
    })),
    on(actions.conflict, (state, { theirs }): State => ({
      ...state,
      save: { kind: 'conflict', theirs },
    })),
    on(actions.resolveConflict, (state, { next, theirs }): State => {
      const based: State = { ...state, stored: theirs, save: { kind: 'saved' }, changes: 0 };
      return equal(next, state.present)
        ? { ...based, ...pending(based, next) }
        : edited(based, next);
    }),
    on(actions.caughtUp, (state, { stored, context, present, past, future }): State => {
      if (state.id !== stored.id) return state;
      const caught: State = { ...state, stored, context, past, future, present, gesture: null };
      const save: SaveState<D> = isDirty(caught) ? { kind: 'waiting' } : { kind: 'saved' };
      return { ...caught, save, changes: isDirty(caught) ? Math.max(1, state.changes) : 0 };
    }),
    on(actions.replaced, (state, { stored }): State => ({
      ...edited(state, stored.document),
      stored,
      save: { kind: 'saved' },
      changes: 0,
    })),
  );
};

/** Whether there is something that the server does not hold yet. */
export const isDirty = <D>({
  present,
  stored,
}: Pick<DocumentState<D, unknown>, 'present' | 'stored'>): boolean =>
  present !== null && stored !== null && !equal(present, stored.document);
