import { createActionGroup, emptyProps, props } from '@ngrx/store';
import type { Instrument, Mend, Patch, Setting } from '@hurrel/core';
import type { StoredPatch } from '../api/client';

/** Everything that happens to the open patch. Actions of one `gesture` are undone together. */
export const PatchActions = createActionGroup({
  source: 'Patch',
  events: {
    Open: props<{ id: string }>(),
    Opened: props<{ stored: StoredPatch; instrument: Instrument; draft?: Patch }>(),
    'Open Failed': props<{ message: string }>(),
    Close: emptyProps(),

    'Set Control': props<{ control: string; setting: Setting | null; gesture?: string }>(),
    'Set Controls': props<{ settings: Record<string, Setting | null> }>(),
    Note: props<{ key: string; text: string; gesture?: string }>(),
    Change: props<{ changes: Partial<Patch>; gesture?: string }>(),
    /** Cables and matrix rows of what is shown, be it the patch or a variation. */
    Panel: props<{ changes: Partial<Pick<Patch, 'cables' | 'matrix'>>; gesture?: string }>(),
    /** Whole sections changed: copied, or moved in their cabinet. */
    Reshape: props<{ patch: Patch }>(),
    'Show Variation': props<{ variation: string | null }>(),
    Mend: props<{ mend: Mend }>(),
    Undo: emptyProps(),
    Redo: emptyProps(),

    Save: emptyProps(),
    Saving: emptyProps(),
    Saved: props<{ stored: StoredPatch }>(),
    'Save Offline': emptyProps(),
    'Save Refused': props<{ message: string }>(),
    Conflict: props<{ theirs: StoredPatch }>(),
    'Resolve Conflict': props<{ patch: Patch; theirs: StoredPatch }>(),
    Replaced: props<{ stored: StoredPatch }>(),
  },
});
