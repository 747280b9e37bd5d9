import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Damage, Draft, Stored } from './document';

/** Everything that can happen to an open document of any kind. Edits of one `gesture` are undone together. */
export const documentActions = <D, C>(source: string) =>
  createActionGroup({
    // NgRx wants the literal itself; here it comes from whoever makes a kind.
    source: source as 'Document',
    events: {
      Open: props<{ id: string }>(),
      Opened: props<{ stored: Stored<D>; context: C; draft?: Draft<D> }>(),
      'Open Failed': props<{ message: string; damage?: Damage }>(),
      Close: emptyProps(),

      Edit: props<{ next: D; gesture?: string }>(),
      Undo: emptyProps(),
      Redo: emptyProps(),

      /** What was done with a gesture is over: the next of its name is undone by itself. */
      Rest: emptyProps(),

      Save: emptyProps(),
      Saving: emptyProps(),
      Saved: props<{ stored: Stored<D> }>(),
      'Save Offline': props<{ reached: boolean }>(),
      'Save Refused': props<{ message: string }>(),
      Conflict: props<{ theirs: Stored<D> }>(),
      'Resolve Conflict': props<{ next: D; theirs: Stored<D> }>(),
      /** Another window saved something else of it: both are brought together, in what can be undone too. */
      'Caught Up': props<{ stored: Stored<D>; context: C; present: D; past: D[]; future: D[] }>(),
      /** Another version became the newest: an old one once more, say. */
      Replaced: props<{ stored: Stored<D> }>(),
    },
  });

export type DocumentActions<D, C> = ReturnType<typeof documentActions<D, C>>;
