import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { controlLabel, formatValue, type Heard } from '@hurrel/core';
import { HeardAt } from '../midi/heard-at';
import { hearKnobs } from '../midi/hear-knobs';
import { PanelsHeard } from '../midi/panels-heard';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { ShownPanel } from '../shown/shown-panel';

/** Controls that say over MIDI where a hand has moved them: the panel is known to stand there, and the record may follow. */
@Component({
  selector: 'hur-knobs-heard',
  imports: [HeardAt],
  template: `
    @if (sends(); as sends) {
      <hur-heard-at [panel]="shown.panel()" [instrument]="sends" [tells]="true" />
      <label>
        <input
          #field
          type="checkbox"
          class="form-check-input"
          [checked]="records()"
          (change)="records.set(field.checked)"
        />
        What is turned on it is recorded here
      </label>
      @if (says(); as text) {
        <p role="status">
          {{ text.name }} <strong class="mono">{{ text.reads }}</strong>
        </p>
      }
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 4px;
      justify-items: start;
    }
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
    strong {
      font-size: 17px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KnobsHeard {
  private readonly store = inject(Store);
  protected readonly shown = inject(ShownPanel);
  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly records = signal(false);
  private readonly last = signal<Heard | null>(null);
  /** The instrument, where some of its controls say where they stand. */
  protected readonly sends = computed(() => {
    const { instrument } = this.state();
    return instrument?.controls.some((c) => c.cc !== undefined) ? instrument : null;
  });
  /** What was heard last, as the panel reads. */
  protected readonly says = computed(() => {
    const [heard, { instrument }] = [this.last(), this.state()];
    if (!heard || !instrument) return null;
    const { control, value } = heard;
    return { name: controlLabel(instrument, control.id), reads: formatValue(control, value) };
  });

  constructor() {
    inject(PanelsHeard).tellsItself(this.shown.panel);
    hearKnobs(
      this.shown.panel,
      () => this.sends()?.controls ?? [],
      (heard) => this.hear(heard),
    );
  }

  private hear(heard: Heard): void {
    this.last.set(heard);
    const { id } = heard.control;
    const setting = { kind: 'set' as const, value: heard.value };
    this.shown.movedTo(heard);
    if (this.records())
      this.store.dispatch(
        PatchActions.setControl({ control: id, setting, gesture: `heard ${id}` }),
      );
  }
}
