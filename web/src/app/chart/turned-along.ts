import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  untracked,
} from '@angular/core';
import { Store } from '@ngrx/store';
import { controlThatFollows, type Patch, shownId } from '@hurrel/core';
import { patchFeature } from '../patch/patch.reducer';
import { ShownPanel } from '../shown/shown-panel';
import { KeysService } from '../sound/keys.service';
import { KnobsHeard } from './knobs-heard';

/** The panel that shows this patch, and whether hands do on it what is done here. */
@Component({
  selector: 'hur-turned-along',
  imports: [KnobsHeard],
  template: `
    @if (here()) {
      <p class="quiet">{{ shown.says() }}</p>
      <label>
        <input
          #along
          type="checkbox"
          class="form-check-input"
          [checked]="on()"
          (change)="on.set(along.checked)"
        />
        What is changed here is turned on it too
      </label>
    }
    <hur-knobs-heard />
  `,
  styles: `
    p {
      margin: 0;
      font-size: 13.5px;
    }
    label {
      display: flex;
      gap: 8px;
      align-items: center;
      font-size: 13.5px;
    }
  `,
  providers: [ShownPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TurnedAlong {
  private readonly store = inject(Store);
  private readonly keys = inject(KeysService);
  protected readonly shown = inject(ShownPanel);
  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  private readonly patch = this.store.selectSignal(patchFeature.selectShown);
  protected readonly on = signal(false);
  /** A panel is known to show this patch. */
  protected readonly here = computed(() => {
    const { id } = this.state();
    return id !== null && this.shown.now()?.patch === id;
  });
  /** The patch as hands last followed it, and which it is. */
  private last: { of: string; patch: Patch } | null = null;

  constructor() {
    effect(() => {
      const [{ id }, patch] = [this.state(), this.patch()];
      if (!id || !patch) return;
      untracked(() =>
        this.shown.stand(shownId(patch.instrument, patch.unit ?? ''), id, patch.name),
      );
    });
    effect(() => {
      const [{ id, variation }, patch, on] = [this.state(), this.patch(), this.on()];
      if (!id || !patch) return;
      const of = `${id} ${variation ?? ''}`;
      const { last } = this;
      this.last = { of, patch };
      // Another variation that is looked at is no hand's work.
      if (on && last?.of === of && last.patch !== patch)
        untracked(() => this.shown.alongWith(last.patch, patch));
    });
    let moved = false;
    effect(() => {
      const wheel = this.keys.wheel();
      // What it stood at before is not known to be the hand's.
      if (moved) untracked(() => this.wheelMoved(wheel));
      moved = true;
    });
  }

  /** A wheel that is heard over MIDI stands where it was moved to. */
  private wheelMoved(travel: number): void {
    const { instrument } = this.state();
    const control = instrument && controlThatFollows(instrument, 'wheel');
    if (!this.on() || !control) return;
    this.shown.movedTo({ control, value: travel });
  }
}
