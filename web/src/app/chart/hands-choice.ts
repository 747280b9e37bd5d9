import { computed, inject, Injectable, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { type Control, controlLabel, type Ends, handsOf } from '@hurrel/core';
import { PatchActions } from '../patch/patch.actions';
import { ChartDesk } from './chart-desk';

const isHand = (control: Control | undefined): boolean =>
  control?.kind === 'wheel' || control?.kind === 'pedal';

/** Wheels, pedals and what else hands do while they play: shown once one of them is chosen. */
@Injectable()
export class HandsChoice {
  private readonly store = inject(Store);
  private readonly desk = inject(ChartDesk);
  readonly handChosen = signal<string | null>(null);
  /** What hands there are, once a wheel, a pedal or the section of hands or keys is chosen. */
  readonly hands = computed(() => {
    const [instrument, patch] = [this.desk.instrument(), this.desk.patch()];
    const stage = instrument?.sections.find((s) => s.id === this.desk.chosenSection())?.stage;
    const wanted = isHand(this.desk.control()) || stage === 'performance' || stage === 'keys';
    if (!instrument || !patch || !wanted) return [];
    return handsOf(instrument, patch).map((id) => ({
      id,
      name: instrument.controls.some((c) => c.id === id) ? controlLabel(instrument, id) : id,
    }));
  });
  readonly hand = computed(() => {
    const ids = this.hands().map((h) => h.id);
    const chosen = [this.handChosen(), this.desk.chosen()].find((id) => id && ids.includes(id));
    return chosen ?? ids[0] ?? null;
  });

  setEnds(hand: string, told: Ends): void {
    const ends = { ...this.desk.patch()?.ends, [hand]: told };
    if (told.low === '' && told.high === '') delete ends[hand];
    this.store.dispatch(PatchActions.change({ changes: { ends } }));
  }
}
