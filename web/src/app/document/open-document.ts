import { useShortcuts } from '../keys/shortcuts';
import { computed, DestroyRef, effect, inject, type Signal, untracked } from '@angular/core';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap/modal';
import { Store } from '@ngrx/store';
import { format } from 'date-fns';
import type { DocumentSides, DocumentState, SaveState } from './document';
import type { DocumentActions } from './document.actions';
import { isDirty } from './document.reducer';
import { OpenDocuments } from './open-documents';

/** What a page knows of the document that is open on it, and what it does to it. */
export interface OpenDocument<D, C> {
  state: Signal<DocumentState<D, C>>;
  canUndo: Signal<boolean>;
  canRedo: Signal<boolean>;
  /** How far the edits are kept; and in words. */
  kept: Signal<SaveState<D>['kind']>;
  saying: Signal<string>;
  /** Takes an edit; those of one gesture are undone together. */
  edit(next: D, gesture?: string): void;
  undo(): void;
  redo(): void;
  /** Tries once more to save what was refused. */
  retry(): void;
  /** Lets the person decide between two states. */
  decide(): Promise<void>;
}

/**
 * Opens the document of an address on a page, and closes it with the page: edits, undo by keys, the line that tells what is
 * saved, and the choice where somebody else went on. To be called where things can be injected.
 *
 * @param what its word in messages: a patch, a session
 */
export function openDocument<D extends object, C>(
  what: string,
  id: () => string,
  select: (state: object) => DocumentState<D, C>,
  actions: DocumentActions<D, C>,
  sides: (context: C) => DocumentSides<D>,
): OpenDocument<D, C> {
  const [store, modal] = [inject(Store), inject(NgbModal)];
  const state = store.selectSignal(select);
  let asking = false;

  const opened: OpenDocument<D, C> = {
    state,
    canUndo: computed(() => state().past.length > 0),
    canRedo: computed(() => state().future.length > 0),
    kept: computed(() => state().save.kind),
    saying: computed(() => sayKept(state())),
    edit: (next, gesture) =>
      store.dispatch(actions.edit({ next, ...(gesture === undefined ? {} : { gesture }) })),
    undo: () => store.dispatch(actions.undo()),
    redo: () => store.dispatch(actions.redo()),
    retry: () => store.dispatch(actions.save()),
    async decide() {
      const { save, stored, present, context } = state();
      if (asking || save.kind !== 'conflict' || !stored || !present || context === null) return;
      asking = true;
      const { ConflictDialog } = await import('./conflict-dialog');
      const options = { size: 'lg', backdrop: 'static', ariaLabelledBy: 'conflict-title' } as const;
      const dialog = modal.open(ConflictDialog, options);
      const start = dialog.componentInstance as InstanceType<typeof ConflictDialog>;
      start.start(what, sides(context), stored.document, present, save.theirs.document);
      try {
        const next = (await dialog.result) as D;
        store.dispatch(actions.resolveConflict({ next, theirs: save.theirs }));
      } catch {
        // Later, then: the line says so until it is decided.
      } finally {
        asking = false;
      }
    },
  };

  effect(() => store.dispatch(actions.open({ id: id() })));
  effect(() => {
    if (state().save.kind === 'conflict') untracked(() => void opened.decide());
  });
  useShortcuts('Edits', [
    { keys: '$mod+KeyZ', says: 'Undo', act: opened.undo },
    { keys: ['$mod+Shift+KeyZ', '$mod+KeyY'], says: 'Redo', act: opened.redo },
  ]);
  inject(DestroyRef).onDestroy(
    inject(OpenDocuments).add({
      kind: what,
      id: () => state().id,
      present: () => state().present,
      dirty: () => isDirty(state()),
    }),
  );
  inject(DestroyRef).onDestroy(() => {
    store.dispatch(actions.close());
  });
  return opened;
}

/** The line that tells how far edits are kept; the same for every kind of document. */
export function sayKept({ save, changes, stored }: DocumentState<unknown, unknown>): string {
  switch (save.kind) {
    case 'saved':
      return stored
        ? `Saved ${format(new Date(stored.updatedAt), 'HH:mm')} · version ${stored.version}`
        : '';
    case 'waiting':
    case 'saving':
      return 'Saving';
    case 'offline':
      return `${save.reached ? 'Not stored yet' : 'Offline'} · ${changes} ${changes === 1 ? 'change' : 'changes'} waiting`;
    case 'refused':
      return `Not saved: ${save.message}`;
    case 'conflict':
      return 'Changed elsewhere: decide what to keep';
  }
}
