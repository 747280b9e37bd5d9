import { inject } from '@angular/core';
import { type ActionReducer, createFeature } from '@ngrx/store';
import * as z from 'zod';
import { answer, API } from '../api/client';
import type { DocumentKind, DocumentState } from '../document/document';
import { documentActions } from '../document/document.actions';
import { documentEffects } from '../document/document.effects';
import { documentReducer } from '../document/document.reducer';

/** Steps of a rebuild that are ticked, in the order in which they were. */
export interface Ticks {
  done: string[];
}

const ticksSchema: z.ZodType<Ticks> = z.object({ done: z.array(z.string()) });
export type TicksContext = Record<string, never>;
export type TicksState = DocumentState<Ticks, TicksContext>;

/** Ticks are known by the patch and by what the panel showed before: `<patch>/<origin>`. */
export const ticksId = (patch: string, origin: string): string => `${patch}/${origin}`;

/** Ticks have no versions: whoever ticked last knows best what the panel shows. */
function ticksKind(api = inject(API)): DocumentKind<Ticks, TicksContext> {
  const where = (id: string): { param: { id: string }; query: { from: string } } => {
    const [patch = '', from = ''] = id.split('/');
    return { param: { id: patch }, query: { from } };
  };
  const progress = api.patches[':id'].progress;
  return {
    name: 'ticks',
    parse: (source) => ticksSchema.parse(source),
    async read(id) {
      const document = await answer<Ticks>(progress.$get(where(id)));
      return { stored: { id, version: 0, updatedAt: '', document }, context: {} };
    },
    async write(on, { done }) {
      const document = await answer<Ticks>(progress.$put({ ...where(on.id), json: { done } }));
      return { ...on, document };
    },
    newer: () => undefined,
  };
}

export const TicksActions = documentActions<Ticks, TicksContext>('Ticks');
const reducer: ActionReducer<TicksState> = documentReducer(TicksActions);
export const ticksFeature = createFeature({ name: 'ticks', reducer });
export const ticksEffects = documentEffects({
  kind: () => ticksKind(),
  actions: TicksActions,
  select: ticksFeature.selectTicksState,
});
