import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  cablePath,
  cableSignal,
  cableText,
  cannotJoin,
  type Control,
  controlCodes,
  inWorkingOrder,
  jackNameSizes,
  TITLE_AFTER,
  titleSize,
  type Instrument,
  isSwitched,
  type Jack,
  type Patch,
  type Section,
  sectionsInOrder,
  snap,
  soundingValue,
  type Setting,
  type Severity,
  turns,
  type Value,
  valueAt,
} from '@hurrel/core';
import equal from 'fast-deep-equal';
import { CableDrawing, type CableView } from './cable';
import { JackView } from './jack';
import { PanelSection } from './panel-section';

/** A value that a pointer or a wheel gives a control. */
export interface ControlMove {
  control: Control;
  value: Value;
  /** The same for all moves of one drag. */
  gesture: string;
}

/** The controls of a section, each from the section's corner. */
interface Group {
  section: string;
  /** As the instrument has them. */
  own: readonly Control[];
  /** Where the section is, as a transformation: one that is only moved is not drawn anew. */
  at: string;
  width: number;
  controls: readonly Control[];
  ids: ReadonlySet<string>;
}

/** A section's group; in which nothing has changed it is the same, and where it was only moved its controls are. */
function groupOf(section: Section, own: Control[], was: Group | undefined): Group {
  const { id, x, y, width } = section;
  const at = `translate(${x} ${y})`;
  const still = was?.at === at && was.width === width;
  if (still && was.own.length === own.length && was.own.every((c, i) => c === own[i])) return was;
  const controls = own.map((c) => ({
    ...c,
    place: { ...c.place, x: c.place.x - x, y: c.place.y - y },
  }));
  if (was && equal(was.controls, controls)) return still ? was : { ...was, own, at, width };
  return { section: id, own, at, width, controls, ids: new Set(own.map((c) => c.id)) };
}

/** Panel units of drag that take a dial from one end stop to the other. */
const DIAL_TRAVEL = 170;

/** The face of an instrument, controls where they are on the real one, in working order for the keyboard. */
@Component({
  selector: 'hur-panel',
  imports: [CableDrawing, JackView, PanelSection],
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
  readonly faults = input<ReadonlyMap<string, Severity>>(new Map());
  /** Keys typed so far of a jump; null while there is none. */
  readonly jump = input<string | null>(null);

  /** How much each control matters, 0 to 3. */
  readonly grades = input<ReadonlyMap<string, number>>(new Map());
  /** Controls that are taken away for the moment. */
  readonly away = input<ReadonlySet<string>>(new Set());

  /** What is being typed for a control. */
  readonly draft = input<{ control: string; text: string; wrong: boolean } | null>(null);

  /** Matrix rows that begin or end at controls, in short. */
  readonly ends = input<ReadonlyMap<string, string>>(new Map());
  readonly cables = input<Patch['cables']>([]);
  /** A recording that is plugged into a jack. */
  readonly feed = input<Patch['feed']>();
  readonly cableView = input<CableView>('whole');
  /** Cable that stands out while the others fade. */
  readonly followed = input<string | null>(null);
  readonly chosenJack = input<string | null>(null);

  /** Panel units to whole multiples of which the sheet is drawn: one that grows letter by letter is not scaled by each. */
  readonly room = input(0);

  readonly chose = output<string>();
  readonly choseJack = output<string>();
  /** Two jacks that a cable was drawn between. */
  readonly joined = output<{ from: string; to: string }>();
  readonly choseSection = output<string>();
  readonly moved = output<ControlMove>();

  private readonly panel = viewChild.required<ElementRef<HTMLElement>>('panel');
  private readonly svg = viewChild.required<ElementRef<SVGSVGElement>>('svg');
  protected readonly box = computed(() => {
    const { width, height } = this.instrument().panel;
    const step = this.room();
    const up = (size: number): number => (step > 0 ? Math.ceil(size / step) * step : size);
    return `0 0 ${up(width)} ${up(height)}`;
  });
  protected readonly jackSizes = computed(() => jackNameSizes(this.instrument()));
  protected readonly sections = computed(() => sectionsInOrder(this.instrument()));
  /** Sizes of the sections' titles. */
  protected readonly titles = computed(
    () => new Map(this.sections().map((s, i) => [s.id, titleSize(s, this.titleAt(i))])),
  );
  protected readonly controls = computed(() => inWorkingOrder(this.instrument()));
  /** Controls by section: what changes in one is painted by itself. */
  protected readonly groups = linkedSignal<{ section: Section; own: Control[] }[], Group[]>({
    source: () =>
      this.sections().map((section) => ({
        section,
        own: this.controls().filter((c) => c.section === section.id),
      })),
    computation: (now, before) => {
      const known = new Map(before?.value.map((g) => [g.section, g]));
      return now.map(({ section, own }) => groupOf(section, own, known.get(section.id)));
    },
  });
  private readonly codes = computed(() => controlCodes(this.instrument()));
  protected readonly names = computed(
    () => new Map(this.instrument().sections.map((s) => [s.id, s.name])),
  );
  protected readonly followedCable = computed(() =>
    this.cables().find((c) => c.id === this.followed()),
  );
  /** Cables that end where the followed one does: what one sees of its neighbours. */
  protected readonly touching = computed(() => {
    const followed = this.followedCable();
    const jacks = [followed?.from, followed?.to].filter((j) => j !== undefined);
    return new Set(
      this.cables()
        .filter((c) => jacks.includes(c.from ?? '') || jacks.includes(c.to ?? ''))
        .map((c) => c.id),
    );
  });
  /** What each cable carries. */
  protected readonly signals = computed(
    () =>
      new Map(this.cables().map((c) => [c.id, cableSignal(this.instrument(), c, this.cables())])),
  );
  protected readonly pluggedIn = computed(() => {
    const told = new Map<string, { text: string; signal: Jack['signal'] }>();
    const instrument = this.instrument();
    for (const cable of this.cables()) {
      const said = {
        text: cableText(instrument, cable),
        signal: this.signals().get(cable.id)!,
      };
      for (const end of [cable.from, cable.to]) if (end !== undefined) told.set(end, said);
    }
    const feed = this.feed();
    if (feed) told.set(feed.jack, { text: `fed with ${feed.name}`, signal: 'audio' });
    return told;
  });
  /** Cable that is being drawn from a jack to the pointer. */
  protected readonly drawing = signal<{ jack: Jack; pointer: number; path: string } | null>(null);
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

  /** Where the title of a section begins: after the number of its place. */
  protected titleAt(place: number): number {
    return place < 9 ? TITLE_AFTER.short : TITLE_AFTER.long;
  }

  /** Moves the keyboard's focus to a control. */
  focus(id: string): void {
    this.panel().nativeElement.querySelector<SVGGElement>(`[data-control="${id}"]`)?.focus();
  }

  /** Scrolls to where a control is. */
  reveal(id: string): void {
    this.panel()
      .nativeElement.querySelector(`[data-control="${id}"]`)
      ?.scrollIntoView({ block: 'center', inline: 'center' });
  }

  protected codeOf(control: Control): string {
    return this.codes().get(control.id) ?? '';
  }

  protected press(event: PointerEvent, id: string): void {
    const control = this.controls().find((c) => c.id === id);
    if (event.button !== 0 || !control) return;
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

  protected barred(jack: Jack): boolean {
    const from = this.drawing()?.jack;
    return from !== undefined && cannotJoin(this.instrument(), from.id, jack.id) !== undefined;
  }

  protected pull(event: PointerEvent, jack: Jack): void {
    if (event.button !== 0) return;
    event.preventDefault();
    const target = event.currentTarget as SVGGElement;
    target.focus();
    target.setPointerCapture(event.pointerId);
    this.drawing.set({ jack, pointer: event.pointerId, path: '' });
  }

  protected drawTo(event: PointerEvent): void {
    const drawing = this.drawing();
    if (drawing?.pointer !== event.pointerId) return;
    const at = this.toPanel(event);
    const far = Math.hypot(at.x - drawing.jack.place.x, at.y - drawing.jack.place.y) > 12;
    this.drawing.set({ ...drawing, path: far ? cablePath(drawing.jack.place, at) : '' });
  }

  protected plug(event: PointerEvent): void {
    const drawing = this.drawing();
    this.drawing.set(null);
    if (!drawing || drawing.path === '') return;
    const hit = document
      .elementFromPoint(event.clientX, event.clientY)
      ?.closest('[data-jack]')
      ?.getAttribute('data-jack');
    if (hit) this.joined.emit({ from: drawing.jack.id, to: hit });
  }

  /** Moves the keyboard's focus to a jack. */
  focusJack(id: string): void {
    this.panel().nativeElement.querySelector<SVGGElement>(`[data-jack="${id}"]`)?.focus();
  }

  protected setting(control: Control): Setting | undefined {
    return this.settings()[control.id];
  }

  private toPanel(event: MouseEvent): DOMPoint {
    const matrix = this.svg().nativeElement.getScreenCTM()!.inverse();
    return new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  }
}
