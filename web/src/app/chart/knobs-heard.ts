import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { controlHeard, formatValue, controlLabel, type Heard } from '@hurrel/core';
import { hearKnobs } from '../midi/hear-knobs';
import { MidiInService } from '../midi/midi-in.service';
import { PatchActions } from '../patch/patch.actions';
import { patchFeature } from '../patch/patch.reducer';
import { ShownPanel } from '../shown/shown-panel';

/** Controls that say over MIDI where a hand has moved them: the panel is known to stand there, and the record may follow. */
@Component({
  selector: 'hur-knobs-heard',
  template: `
    @if (sends()) {
      @if (midi.supported && midi.inputs().length === 0) {
        <button type="button" class="btn" (click)="midi.connect()">Hear its knobs over MIDI</button>
      } @else if (!midi.supported) {
        <p class="quiet">Its knobs speak over MIDI, which this browser has not.</p>
      }
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
      @if (midi.fault()) {
        <p class="bad" role="alert">{{ midi.fault() }}</p>
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
  private readonly shown = inject(ShownPanel);
  protected readonly midi = inject(MidiInService);
  private readonly state = this.store.selectSignal(patchFeature.selectPatchState);
  protected readonly records = signal(false);
  private readonly last = signal<Heard | null>(null);
  protected readonly sends = computed(() =>
    (this.state().instrument?.controls ?? []).some((c) => c.cc !== undefined),
  );
  /** What was heard last, as the panel reads. */
  protected readonly says = computed(() => {
    const [heard, { instrument }] = [this.last(), this.state()];
    if (!heard || !instrument) return null;
    const { control, value } = heard;
    return { name: controlLabel(instrument, control.id), reads: formatValue(control, value) };
  });

  constructor() {
    hearKnobs((cc, sent) => this.hear(cc, sent));
  }

  private hear(cc: number, sent: number): void {
    const heard = controlHeard(this.state().instrument?.controls ?? [], cc, sent);
    if (!heard) return;
    this.last.set(heard);
    const { id } = heard.control;
    const setting = { kind: 'set' as const, value: heard.value };
    this.shown.movedTo(id, heard.value);
    if (this.records())
      this.store.dispatch(
        PatchActions.setControl({ control: id, setting, gesture: `heard ${id}` }),
      );
  }
}
