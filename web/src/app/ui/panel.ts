import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  viewChild,
} from '@angular/core';
import {
  type Control,
  controlCodes,
  inWorkingOrder,
  type Instrument,
  isSwitched,
  type Patch,
  sectionsInOrder,
  snap,
  soundingValue,
  type Setting,
  turns,
  type Value,
  valueAt,
} from '@hurrel/core';
import { ControlView } from './control';

/** A value that a pointer or a wheel gives a control. */
export interface ControlMove {
  control: Control;
  value: Value;
  /** The same for all moves of one drag. */
  gesture: string;
}

/** Panel units of drag that take a dial from one end stop to the other. */
const DIAL_TRAVEL = 170;

/** The face of an instrument, controls where they are on the real one, in working order for the keyboard. */
@Component({
  selector: 'hur-panel',
  imports: [ControlView],
  templateUrl: './panel.html',
  styleUrl: './panel.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Panel {
  readonly instrument = input.required<Instrument>();
  readonly settings = input.required<Patch['settings']>();
  readonly notes = input<Patch['notes']>({});
  readonly chosen = input<string | null>(null);
  readonly chosenSection = input<string | null>(null);
  readonly faults = input<ReadonlyMap<string, 'silent' | 'wrong' | 'idle'>>(new Map());
  /** Keys typed so far of a jump; null while there is none. */
  readonly jump = input<string | null>(null);

  /** How much each control matters, 0 to 3. */
  readonly grades = input<ReadonlyMap<string, number>>(new Map());
  /** Controls that are taken away for the moment. */
  readonly away = input<ReadonlySet<string>>(new Set());

  /** What is being typed for a control. */
  readonly draft = input<{ control: string; text: string; wrong: boolean } | null>(null);

  readonly chose = output<string>();
  readonly choseSection = output<string>();
  readonly moved = output<ControlMove>();

  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly sections = computed(() => sectionsInOrder(this.instrument()));
  protected readonly controls = computed(() => inWorkingOrder(this.instrument()));
  private readonly codes = computed(() => controlCodes(this.instrument()));
  private readonly names = computed(
    () => new Map(this.instrument().sections.map((s) => [s.id, s.name])),
  );
  protected readonly bubble = computed(() => {
    const draft = this.draft();
    const control = draft && this.controls().find((c) => c.id === draft.control);
    if (!draft || !control) return null;
    const width = Math.max(56, draft.text.length * 10.5 + 26);
    const half = width / 2;
    const x = Math.min(this.instrument().panel.width - half, Math.max(half, control.place.x));
    return { x, y: control.place.y, width, text: draft.text, wrong: draft.wrong };
  });
  private drag: {
    control: Control;
    pointer: number;
    y: number;
    from: number;
    gesture: string;
  } | null = null;
  private gestures = 0;

  /** Moves the keyboard's focus to a control. */
  focus(id: string): void {
    this.svg().nativeElement.querySelector<SVGGElement>(`[data-control="${id}"]`)?.focus();
  }

  protected sectionName(control: Control): string {
    return this.names().get(control.section) ?? '';
  }

  protected codeOf(control: Control): string {
    return this.codes().get(control.id) ?? '';
  }

  protected press(event: PointerEvent, control: Control): void {
    if (event.button !== 0) return;
    event.preventDefault();
    this.focus(control.id);
    const at = this.toPanel(event);
    const gesture = `drag-${++this.gestures}`;
    if (isSwitched(control)) {
      const value = valueAt(control, at.x, at.y);
      if (value !== undefined) this.moved.emit({ control, value, gesture });
      return;
    }
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const from = Number(soundingValue(control, this.setting(control)));
    this.drag = { control, pointer: event.pointerId, y: at.y, from, gesture };
  }

  protected move(event: PointerEvent): void {
    const { drag } = this;
    if (!drag || drag.pointer !== event.pointerId || isSwitched(drag.control)) return;
    const travel = turns(drag.control) ? DIAL_TRAVEL : drag.control.place.size;
    const fine = event.shiftKey ? 0.2 : 1;
    const moved = ((drag.y - this.toPanel(event).y) / travel) * fine;
    // A press without a drag chooses, and turns nothing.
    if (
      Math.abs(moved) * travel < 2 &&
      drag.from === Number(soundingValue(drag.control, this.setting(drag.control)))
    )
      return;
    const value = snap(drag.control, Math.min(1, Math.max(0, drag.from + moved)));
    this.moved.emit({ control: drag.control, value, gesture: drag.gesture });
  }

  protected release(event: PointerEvent): void {
    if (this.drag?.pointer === event.pointerId) this.drag = null;
  }

  protected setting(control: Control): Setting | undefined {
    return this.settings()[control.id];
  }

  private toPanel(event: MouseEvent): DOMPoint {
    const matrix = this.svg().nativeElement.getScreenCTM()!.inverse();
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  }
}
