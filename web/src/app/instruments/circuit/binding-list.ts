import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  untracked,
} from '@angular/core';
import { controlLabel, inWorkingOrder, jackLabel, jackPorts, withJackPort } from '@hurrel/core';
import { InstrumentDesk } from '../instrument-desk';
import { BindingEditor } from './binding-editor';
import { bindingText } from './binding-words';

/** Every control with what it does; the one that is chosen, here or on the panel, is said more of. */
@Component({
  selector: 'hur-binding-list',
  imports: [BindingEditor],
  template: `
    <ol>
      @for (row of rows(); track row.control.id) {
        <li [class.open]="desk.chosen() === row.control.id">
          <button
            type="button"
            [attr.data-bound]="row.control.id"
            [attr.aria-expanded]="desk.chosen() === row.control.id"
            (click)="desk.chosen.set(desk.chosen() === row.control.id ? null : row.control.id)"
          >
            <strong>{{ row.name }}</strong>
            <span [class.open-question]="!row.text">{{ row.text || 'not said yet' }}</span>
          </button>
          @if (desk.chosen() === row.control.id) {
            <hur-binding-editor [control]="row.control" />
          }
        </li>
      }
    </ol>
    @if (jacks().length > 0) {
      <h2>Where the jacks lead</h2>
      @for (row of jacks(); track row.jack.id) {
        <label class="jack">
          <strong>{{ row.name }}</strong>
          <select
            #port
            class="form-select"
            [attr.aria-label]="'Where ' + row.name + ' leads'"
            [class.open-question]="!row.jack.port"
            (change)="lead(row.jack.id, port.value)"
          >
            <option value="" [selected]="!row.jack.port">not said yet</option>
            @for (one of row.ports; track one.port) {
              <option [value]="one.port" [selected]="one.port === row.jack.port">
                {{ one.name }} of {{ one.module }}
              </option>
            }
          </select>
        </label>
      }
    }
  `,
  styleUrl: './binding-list.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BindingList {
  protected readonly desk = inject(InstrumentDesk);
  protected readonly rows = computed(() => {
    const instrument = this.desk.instrument();
    if (!instrument) return [];
    return inWorkingOrder(instrument).map((control) => ({
      control,
      name: controlLabel(instrument, control.id),
      text: bindingText(instrument, control),
    }));
  });

  protected readonly jacks = computed(() => {
    const instrument = this.desk.instrument();
    return (instrument?.jacks ?? []).map((jack) => ({
      jack,
      name: jackLabel(instrument!, jack.id),
      ports: jackPorts(instrument!, jack),
    }));
  });

  protected lead(jack: string, port: string): void {
    this.desk.edit((i) => withJackPort(i, jack, port));
  }

  constructor() {
    effect(() => {
      const chosen = this.desk.chosen();
      // Chosen on the panel it comes into view here.
      untracked(() =>
        setTimeout(() =>
          document
            .querySelector(`[data-bound="${chosen ?? ''}"]`)
            ?.scrollIntoView({ block: 'nearest' }),
        ),
      );
    });
  }
}
