import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { type Control, nameSizes, type Patch, type Severity } from '@hurrel/core';
import { ControlView } from './control';

/** What a pointer does on a control. */
export interface Touch {
  event: PointerEvent;
  /** Its id. */
  control: string;
}

/** The controls of one section, on a sheet of their own: as long as they are the same, none of them is looked at anew. */
@Component({
  selector: 'svg[hurSection]',
  imports: [ControlView],
  template: `
    <svg:g [attr.transform]="at()">
      @for (control of controls(); track control.id) {
        <svg:g
          hurControl
          [control]="control"
          [setting]="settings()[control.id]"
          [nameSize]="sizes().get(control.id)"
          [section]="name()"
          [chosen]="chosen() === control.id"
          [noted]="!!notes()['control:' + control.id]"
          [fault]="faults().get(control.id)"
          [grade]="grades().get(control.id) ?? 0"
          [away]="away().has(control.id)"
          [rows]="ends().get(control.id) ?? ''"
          (focus)="chose.emit(control.id)"
          (pointerdown)="pressed.emit({ event: $event, control: control.id })"
          (pointermove)="dragged.emit($event)"
          (pointerup)="released.emit($event)"
          (pointercancel)="released.emit($event)"
        />
      }
    </svg:g>
  `,
  styles: `
    [data-control] {
      pointer-events: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PanelSection {
  /** The section's corner, as a transformation; its controls are told from there. */
  readonly at = input.required<string>();
  readonly controls = input.required<readonly Control[]>();
  readonly width = input.required<number>();
  readonly name = input.required<string>();
  readonly settings = input.required<Patch['settings']>();
  readonly notes = input.required<Patch['notes']>();
  /** The control of this section that is chosen. */
  readonly chosen = input<string | null>(null);
  readonly faults = input.required<ReadonlyMap<string, Severity>>();
  readonly grades = input.required<ReadonlyMap<string, number>>();
  readonly away = input.required<ReadonlySet<string>>();
  readonly ends = input.required<ReadonlyMap<string, string>>();

  protected readonly sizes = computed(() =>
    nameSizes(this.controls(), { x: 0, width: this.width() }),
  );

  readonly chose = output<string>();
  readonly pressed = output<Touch>();
  readonly dragged = output<PointerEvent>();
  readonly released = output<PointerEvent>();
}
