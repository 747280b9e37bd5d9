import { createActionGroup, props } from '@ngrx/store';
import type { Instrument, Mend, Patch, Setting } from '@hurrel/core';
import { documentActions } from '../document/document.actions';

/** What happens to any open document, and what is a patch's own. Actions of one `gesture` are undone together. */
export const PatchActions = {
  ...documentActions<Patch, Instrument>('Patch'),
  ...createActionGroup({
    source: 'Patch',
    events: {
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
    },
  }),
};
