import { computed, DestroyRef, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Calibrations, type Recorded, type Unit, unitsNamed } from '@hurrel/core';
import { answer, API, saysNothing } from '../api/client';
import { eveningFeature } from './evening.document';

/** Ms until units are asked for again when the server was away. */
const AGAIN_MS = 3000;

/** What was measured of the units that a set's panels are, and of those on which its patches were recorded. */
@Injectable()
export class SetUnits {
  private readonly api = inject(API);
  private readonly evening = inject(Store).selectSignal(eveningFeature.selectPresent);
  private readonly library = signal<readonly Recorded[]>([]);
  /** Null for one that is gone: of it nothing is known. */
  private readonly read = signal<Readonly<Record<string, Pick<Unit, 'calibration'> | null>>>({});
  private readonly wanted = computed(() =>
    unitsNamed(this.evening()?.panels ?? [], this.library()),
  );
  /** Null before all of them were asked for. */
  readonly known = computed((): Calibrations | null => {
    const [read, wanted] = [this.read(), this.wanted()];
    if (wanted.some((id) => read[id] === undefined)) return null;
    return Object.fromEntries(wanted.flatMap((id) => (read[id] ? [[id, read[id]]] : [])));
  });
  private closed = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => (this.closed = true));
    effect(() => {
      const wanted = this.wanted();
      untracked(() => void this.ask(wanted));
    });
  }

  /** Patches of the set, as they are read. */
  of(library: readonly Recorded[]): void {
    this.library.set(library);
  }

  private async ask(wanted: readonly string[]): Promise<void> {
    let away = false;
    for (const id of wanted) {
      if (this.closed || this.read()[id] !== undefined) continue;
      try {
        const { unit } = await answer<{ unit: Unit }>(
          this.api.units[':id'].$get({ param: { id } }),
        );
        this.read.update((all) => ({ ...all, [id]: unit }));
      } catch (error) {
        if (saysNothing(error)) away = true;
        else this.read.update((all) => ({ ...all, [id]: null }));
      }
    }
    if (away && !this.closed) setTimeout(() => void this.ask(this.wanted()), AGAIN_MS);
  }
}
