import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Control, controlLabel, type Ends, controllersOf } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { ChartDesk } from './chart-desk';

const isController = (control: Control | undefined): boolean =>
  control?.kind === 'wheel' || control?.kind === 'pedal';

/** Wheels, pedals and what else hands do while they play: shown once one of them is chosen. */
@Injectable()
export class ControllerChoice {
  private readonly store = inject(Store);
  private readonly desk = inject(ChartDesk);
  readonly chosen = signal<string | null>(null);
  /** What controllers there are, once a wheel, a pedal or the section of controllers or keys is chosen. */
  readonly all = computed(() => {
    const [instrument, patch] = [this.desk.instrument(), this.desk.patch()];
    const stage = instrument?.sections.find((s) => s.id === this.desk.chosenSection())?.stage;
    const wanted = isController(this.desk.control()) || stage === 'performance' || stage === 'keys';
    if (!instrument || !patch || !wanted) return [];
    return controllersOf(instrument, patch).map((id) => ({
      id,
      name: instrument.controls.some((c) => c.id === id) ? controlLabel(instrument, id) : id,
    }));
  });
  readonly controller = computed(() => {
    const ids = this.all().map((h) => h.id);
    const chosen = [this.chosen(), this.desk.chosen()].find((id) => id && ids.includes(id));
    return chosen ?? ids[0] ?? null;
  });

  setEnds(controller: string, told: Ends): void {
    const ends = { ...this.desk.patch()?.ends, [controller]: told };
    if (told.low === '' && told.high === '') delete ends[controller];
    this.store.dispatch(PatchActions.change({ changes: { ends } }));
  }
}
