import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { StagePanel } from '@hurrel/core';
import { NumberField } from '../ui/number-field';
import { SetDesk } from './set-desk';

/** Whose hands reach a panel: the hand of whoever moves it, and who else may, with their way to it. */
@Component({
  selector: 'hur-panel-hands',
  imports: [NumberField],
  template: `
    @let name = panel().name;
    <select
      #side
      class="form-select"
      [attr.aria-label]="'Which hand reaches ' + name"
      (change)="stand(side.value)"
    >
      <option value="">either hand reaches it</option>
      <option value="left" [selected]="panel().side === 'left'">the left hand reaches it</option>
      <option value="right" [selected]="panel().side === 'right'">the right hand reaches it</option>
    </select>
    @for (other of helpers(); track other.by) {
      <span class="helper">
        {{ other.name }} may help,
        <hur-number-field
          [label]="'Seconds of ' + other.name + ' to ' + name + ' and back'"
          [quiet]="true"
          [value]="other.walk"
          [min]="0"
          [max]="600"
          [width]="4"
          unit="s to it and back"
          (taken)="walk(other.by, $event)"
        />
        <button
          type="button"
          class="btn btn-plain"
          [attr.aria-label]="other.name + ' does not help at ' + name"
          (click)="drop(other.by)"
        >
          <i class="bi bi-x-lg" aria-hidden="true"></i>
        </button>
      </span>
    }
    @if (others().length > 0) {
      <select
        #more
        class="form-select"
        [attr.aria-label]="'Who may help at ' + name"
        (change)="add(more.value); more.value = ''"
      >
        <option value="">who may help …</option>
        @for (person of others(); track person.id) {
          <option [value]="person.id">{{ person.name }}</option>
        }
      </select>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 8px;
      align-items: center;
    }
    select {
      width: 210px;
    }
    select:last-child {
      width: 150px;
    }
    .helper {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelHands {
  readonly panel = input.required<StagePanel>();
  private readonly desk = inject(SetDesk);

  private readonly people = computed(() => this.desk.evening()?.people ?? []);
  protected readonly helpers = computed(() =>
    this.panel().also.map(({ by, walk }) => ({
      by,
      walk,
      name: this.people().find((p) => p.id === by)?.name ?? by,
    })),
  );
  /** Who could be named: neither whoever moves it nor those who are. */
  protected readonly others = computed(() => {
    const { by, also } = this.panel();
    const usual = by ?? this.people()[0]?.id;
    return this.people().filter((p) => p.id !== usual && !also.some((a) => a.by === p.id));
  });

  protected stand(side: string): void {
    const given = side === 'left' || side === 'right' ? side : undefined;
    this.desk.changePanel(this.panel().id, { side: given });
  }

  protected add(by: string): void {
    if (by) this.change([...this.panel().also, { by, walk: 5 }]);
  }

  protected walk(by: string, walk: number): void {
    this.change(this.panel().also.map((a) => (a.by === by ? { by, walk } : a)));
  }

  protected drop(by: string): void {
    this.change(this.panel().also.filter((a) => a.by !== by));
  }

  private change(also: StagePanel['also']): void {
    this.desk.changePanel(this.panel().id, { also });
  }
}
