import { effect, inject, type Signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { PatchActions } from '../patch/patch.actions';
import type { PatchState } from '../patch/patch.reducer';

const keyOf = (id: string): string => `hurrel-variation-${id}`;

/** Keeps which variation of a patch is shown for as long as its tab is open: a reload shows it again. */
export function rememberVariation(id: () => string, state: Signal<PatchState>): void {
  const store = inject(Store);
  let asked = '';
  effect(() => {
    const { present, variation, id: opened } = state();
    if (!present || opened !== id()) return;
    if (asked !== opened) {
      asked = opened;
      const kept = sessionStorage.getItem(keyOf(opened));
      if (kept && kept !== variation && present.variations.some((v) => v.id === kept)) {
        untracked(() => store.dispatch(PatchActions.showVariation({ variation: kept })));
        return;
      }
    }
    if (variation) sessionStorage.setItem(keyOf(opened), variation);
    else sessionStorage.removeItem(keyOf(opened));
  });
}
