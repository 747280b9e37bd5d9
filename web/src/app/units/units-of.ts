import { computed, effect, inject, type Signal, signal, untracked } from '@angular/core';
import { type StoredUnit, UnitsService } from './units.service';

/**
 * The units of an instrument, asked for once for each instrument that is open: what is edited meanwhile asks for nothing.
 * Where the server does not answer there are none.
 */
export function unitsOf(instrument: () => { id: string } | null | undefined): Signal<StoredUnit[]> {
  const service = inject(UnitsService);
  const units = signal<StoredUnit[]>([]);
  const of = computed(() => instrument()?.id);
  effect(() => {
    const id = of();
    untracked(() => units().length > 0 && units.set([]));
    if (id === undefined) return;
    void service.of(id).then(
      (all) => of() === id && units.set(all),
      () => undefined,
    );
  });
  return units.asReadonly();
}
