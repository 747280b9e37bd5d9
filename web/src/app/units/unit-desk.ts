import { computed, inject, Injectable } from '@angular/core';
import type { Unit } from '@hurrel/core';
import { Store } from '@ngrx/store';
import { UnitActions, unitFeature } from './unit.document';

/** The open unit and the panel of its instrument. */
@Injectable()
export class UnitDesk {
  private readonly store = inject(Store);
  readonly unit = this.store.selectSignal(unitFeature.selectPresent);
  private readonly context = this.store.selectSignal(unitFeature.selectContext);
  readonly instrument = computed(() => this.context() ?? undefined);
  /** The instrument's memory, where it has places. */
  readonly memory = computed(() => {
    const memory = this.instrument()?.memory;
    return memory?.kind === 'slots' ? memory : undefined;
  });

  change(changes: Partial<Unit>): void {
    const unit = this.unit();
    if (unit) this.store.dispatch(UnitActions.edit({ next: { ...unit, ...changes } }));
  }

  undo(): void {
    this.store.dispatch(UnitActions.undo());
  }
}
