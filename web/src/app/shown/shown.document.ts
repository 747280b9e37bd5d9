import { inject } from '@angular/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import { type Shown, shownSchema } from '@hurrel/core';
import * as z from 'zod';
import { answer, API } from '../api/client';
import type { DocumentKind, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';

/** What the panel shows before which one stands; null when nothing is known. */
export interface ShownDocument {
  shown: Shown | null;
}

const schema: z.ZodType<ShownDocument> = z.object({ shown: shownSchema.nullable() });
type ShownContext = Record<string, never>;
type ShownState = DocumentState<ShownDocument, ShownContext>;

/** It has no versions: whoever moved something last knows best. */
function shownKind(api = inject(API)): DocumentKind<ShownDocument, ShownContext> {
  const panel = api.shown[':panel'];
  return {
    name: 'shown',
    parse: (source) => schema.parse(source),
    async read(id) {
      const document = await answer<ShownDocument>(panel.$get({ param: { panel: id } }));
      return { stored: { id, version: 0, updatedAt: '', document }, context: {} };
    },
    async write(on, { shown }) {
      if (!shown) return on;
      const document = await answer<ShownDocument>(
        panel.$put({ param: { panel: on.id }, json: { shown } }),
      );
      return { ...on, document };
    },
    newer: () => undefined,
  };
}

export const ShownActions = documentActions<ShownDocument, ShownContext>('Shown');
const reducer: ActionReducer<ShownState> = documentReducer(ShownActions);
export const shownFeature = createFeature({ name: 'shown', reducer });
export const shownEffects = documentEffects({
  kind: () => shownKind(),
  actions: ShownActions,
  select: shownFeature.selectShownState,
});
