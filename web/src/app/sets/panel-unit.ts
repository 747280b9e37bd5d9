import {
  ChangeDetectionStrategy,
  Component,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import type { StagePanel } from '@hurrel/core';
import { ToastService } from '../ui/toasts';
import { type StoredUnit, UnitsService } from '../units/units.service';
import { SetDesk } from './set-desk';

/** What is chosen for a unit that is still to be made. */
const NEW = 'new';

/** Which unit a panel of a set is: what it shows, what it sends, and how it reads are that one's. */
@Component({
  selector: 'hur-panel-unit',
  template: `
    <select
      #unit
      class="form-select"
      [attr.aria-label]="'Which unit ' + panel().name + ' is'"
      (change)="choose(unit)"
    >
      <option value="" [selected]="panel().unit === undefined">whichever unit</option>
      @for (one of units(); track one.id) {
        <option [value]="one.id" [selected]="one.id === panel().unit">{{ one.unit.name }}</option>
      }
      @if (gone()) {
        <option [value]="panel().unit" selected>a unit that is gone</option>
      }
      <option [value]="fresh">a new unit, {{ panel().name }}</option>
    </select>
  `,
  styles: `
    select {
      width: 165px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelUnit {
  readonly panel = input.required<StagePanel>();

  private readonly desk = inject(SetDesk);
  private readonly all = inject(UnitsService);
  private readonly toasts = inject(ToastService);
  protected readonly fresh = NEW;
  /** Those of its instrument; null before they are read. */
  private readonly read = signal<readonly StoredUnit[] | null>(null);
  protected readonly units = (): readonly StoredUnit[] => this.read() ?? [];

  constructor() {
    let of = '';
    effect(() => {
      const { instrument } = this.panel();
      if (instrument === of) return;
      of = instrument;
      untracked(() => void this.readUnits(instrument));
    });
  }

  protected gone(): boolean {
    const { unit } = this.panel();
    return unit !== undefined && this.read()?.some((u) => u.id === unit) === false;
  }

  protected choose(field: HTMLSelectElement): void {
    if (field.value === NEW) void this.make();
    else this.desk.changePanel(this.panel().id, { unit: field.value || undefined });
  }

  private async make(): Promise<void> {
    const { id, instrument, name } = this.panel();
    try {
      const unit = { instrument, name, note: '', calibration: {}, slots: [] };
      const made = await this.all.add(unit);
      this.read.update((all) => [...(all ?? []), made]);
      this.desk.changePanel(id, { unit: made.id });
    } catch (error) {
      this.toasts.show((error as Error).message);
    }
  }

  private async readUnits(instrument: string): Promise<void> {
    // Without an answer what is chosen stays chosen.
    this.read.set(await this.all.of(instrument).catch(() => null));
  }
}
