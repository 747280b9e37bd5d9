import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { StagePanel } from '@hurrel/core';
import { NumberField } from '../ui/number-field';
import { SetDesk } from './set-desk';
import { PickOnce } from '../ui/pick-once';

/** Whose hands reach a panel: the hand of whoever moves it, and who else may, with their way to it. */
@Component({
  selector: 'hur-panel-hands',
  imports: [NumberField, PickOnce],
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
        <label>
          <input
            type="checkbox"
            class="form-check-input"
            [checked]="other.beside"
            (change)="besides(other.by, !other.beside)"
          />
          at the same time too
        </label>
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
        class="form-select"
        [attr.aria-label]="'Who may help at ' + name"
        (hurPickOnce)="add($event)"
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
    select:last-child:not(:first-child) {
      width: 150px;
    }
    .helper,
    label {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    label {
      margin-left: 10px;
    }
    label .form-check-input {
      margin: 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelHands {
  readonly panel = input.required<StagePanel>();
  private readonly desk = inject(SetDesk);

  private readonly people = computed(() => this.desk.evening()?.people ?? []);
  protected readonly helpers = computed(() =>
    this.panel().also.map(({ by, walk, beside }) => ({
      by,
      walk,
      beside,
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
    if (by) this.change([...this.panel().also, { by, walk: 5, beside: false }]);
  }

  protected walk(by: string, walk: number): void {
    this.set(by, { walk });
  }

  /** There is room for them beside whoever moves it, or none. */
  protected besides(by: string, beside: boolean): void {
    this.set(by, { beside });
  }

  protected drop(by: string): void {
    this.change(this.panel().also.filter((a) => a.by !== by));
  }

  private set(by: string, changes: Partial<StagePanel['also'][number]>): void {
    this.change(this.panel().also.map((a) => (a.by === by ? { ...a, ...changes } : a)));
  }

  private change(also: StagePanel['also']): void {
    this.desk.changePanel(this.panel().id, { also });
  }
}
