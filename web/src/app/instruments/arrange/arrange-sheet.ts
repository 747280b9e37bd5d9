import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import {
  boxOf,
  drawControl,
  drawJack,
  type Instrument,
  panelOf,
  type Shape,
  type Thing,
} from '@hurrel/core';
import { shortcutListener, tellShortcuts } from '../../keys/shortcuts';
import { Shapes } from '../../ui/shapes';
import { PhotographCorners } from '../photograph/corners';
import { PhotographDesk } from '../photograph/photograph-desk';
import { InstrumentDesk } from '../instrument-desk';
import { ArrangeDesk } from './arrange-desk';

interface Shown {
  thing: Thing;
  name: string;
  box: { x: number; y: number; width: number; height: number };
  shapes: Shape[];
}

interface Drag {
  pointer: number;
  start: Instrument;
  from: { x: number; y: number };
  gesture: string;
}

/** The panel as a sheet on which things are moved about: by drag and by keys, one or many. */
@Component({
  selector: 'hur-arrange-sheet',
  imports: [PhotographCorners, Shapes],
  templateUrl: './arrange-sheet.html',
  styleUrl: './arrange-sheet.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ArrangeSheet {
  protected readonly desk = inject(ArrangeDesk);
  private readonly instrumentDesk = inject(InstrumentDesk);
  private readonly svg = viewChild<ElementRef<SVGSVGElement>>('svg');
  /** A frame that is drawn to take up what is in it, from corner to corner. */
  protected readonly frame = signal<{ x0: number; y0: number; x1: number; y1: number } | null>(
    null,
  );
  protected readonly photo = inject(PhotographDesk);
  private readonly words = viewChild<ElementRef<HTMLInputElement>>('words');
  protected readonly fault = signal('');
  private drag: Drag | null = null;

  protected readonly sheet = computed(() => this.desk.instrument()?.panel);
  protected readonly sections = computed((): Shown[] =>
    this.shown((i) =>
      i.sections.map((s) => ({ thing: `section:${s.id}` as const, name: s.name, shapes: [] })),
    ),
  );
  protected readonly things = computed((): Shown[] =>
    this.shown((i) => [
      ...i.controls.map((c) => ({
        thing: `control:${c.id}` as const,
        name: c.name,
        shapes: drawControl(c, undefined),
      })),
      ...i.jacks.map((j) => ({
        thing: `jack:${j.id}` as const,
        name: j.name,
        shapes: drawJack(j),
      })),
    ]),
  );
  /** What is on the modules of a cabinet, which is moved where one of them is looked at. */
  protected readonly backdrop = computed((): Shape[] => {
    const [whole, rack] = [this.instrumentDesk.whole(), this.desk.cabinet()];
    if (!whole || !rack) return [];
    const own = new Set(whole.sections.map((s) => s.id));
    const { controls, jacks } = panelOf(whole);
    return [
      ...controls.filter((c) => !own.has(c.section)).flatMap((c) => drawControl(c, undefined)),
      ...jacks.filter((j) => !own.has(j.section)).flatMap((j) => drawJack(j)),
    ];
  });
  protected readonly lines = computed(() => {
    const [sheet, step] = [this.sheet(), this.desk.grid()];
    if (!sheet || step < 4) return '';
    const down = Array.from({ length: Math.floor(sheet.width / step) }, (_, i) => {
      return `M${(i + 1) * step} 0V${sheet.height}`;
    });
    const across = Array.from({ length: Math.floor(sheet.height / step) }, (_, i) => {
      return `M0 ${(i + 1) * step}H${sheet.width}`;
    });
    return [...down, ...across].join('');
  });
  protected readonly lying = computed(() => new Set(this.desk.covered().flat()));
  protected readonly keys = [
    ...arrows('', 'By a step of the grid', (x, y) => this.step(x, y, this.desk.grid())),
    ...arrows('Shift+', 'A unit at a time', (x, y) => this.step(x, y, 1)),
    ...arrows('$mod+', 'By five steps', (x, y) => this.step(x, y, 5 * this.desk.grid())),
    { keys: '$mod+KeyA', says: 'Take everything', act: () => this.takeAll() },
    {
      keys: '$mod+KeyD',
      says: 'Copy what is taken',
      act: (event: KeyboardEvent) => {
        event.preventDefault();
        this.desk.copy();
      },
    },
    { keys: 'Escape', says: 'Let go', act: () => this.desk.taken.set(new Set()) },
  ];
  protected readonly listen = shortcutListener(this.keys);

  constructor() {
    tellShortcuts(
      'Sheet',
      this.keys.filter((k, i) => this.keys.findIndex((o) => o.says === k.says) === i),
    );
  }

  protected focus(thing: Thing): void {
    // By a press it is the pointer that takes.
    if (this.drag || this.frame()) return;
    if (!this.desk.taken().has(thing)) this.desk.take(thing, false);
  }

  protected press(event: PointerEvent, thing: Thing): void {
    // Where things are put by pointing, what is there already is in nobody's way.
    if (this.desk.putting()) return;
    event.stopPropagation();
    const [start, at] = [this.desk.instrument(), this.at(event)];
    if (!start || !at || event.button !== 0) return;
    const more = event.shiftKey || event.ctrlKey || event.metaKey;
    if (more || !this.desk.taken().has(thing)) this.desk.take(thing, more);
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    const gesture = this.desk.newGesture();
    this.drag = { pointer: event.pointerId, start, from: at, gesture };
  }

  protected move(event: PointerEvent): void {
    const at = this.at(event);
    if (!at) return;
    const frame = this.frame();
    if (frame) return this.frame.set({ ...frame, x1: at.x, y1: at.y });
    const { drag } = this;
    if (!drag || drag.pointer !== event.pointerId) return;
    // With Alt it goes where the hand goes, else from step to step.
    const step = event.altKey ? 1 : this.desk.grid();
    const by = (to: number, from: number): number => Math.round((to - from) / step) * step;
    const way = { x: by(at.x, drag.from.x), y: by(at.y, drag.from.y) };
    this.desk.moveFrom(drag.start, way, drag.gesture);
  }

  protected release(): void {
    this.drag = null;
    const frame = this.frame();
    if (!frame) return;
    this.frame.set(null);
    const [left, right] = [frame.x0, frame.x1].sort((a, b) => a - b) as [number, number];
    const [top, bottom] = [frame.y0, frame.y1].sort((a, b) => a - b) as [number, number];
    const inside = this.things().filter(
      ({ box: b }) =>
        b.x >= left && b.x + b.width <= right && b.y >= top && b.y + b.height <= bottom,
    );
    this.desk.taken.set(new Set(inside.map((one) => one.thing)));
  }

  /** On the bare sheet, or in a section beside everything: a frame is drawn. */
  protected begin(event: PointerEvent): void {
    const at = this.at(event);
    if (!at || event.button !== 0) return;
    if (this.desk.putting()) return this.wait(event, at);
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.frame.set({ x0: at.x, y0: at.y, x1: at.x, y1: at.y });
  }

  /** A place waits for its words. */
  private wait(event: PointerEvent, at: { x: number; y: number }): void {
    event.preventDefault();
    this.desk.waiting.set(at);
    this.fault.set('');
    setTimeout(() => this.words()?.nativeElement.focus());
  }

  protected put(field: HTMLInputElement): void {
    const at = this.desk.waiting();
    if (!at) return;
    const fault = this.desk.put(field.value, at);
    this.fault.set(fault);
    if (fault === '') this.close(field);
  }

  /** Puts nothing more there. The next place may be pointed at before this field is gone: it begins without words. */
  protected close(field: HTMLInputElement): void {
    field.value = '';
    this.fault.set('');
    this.desk.waiting.set(null);
  }

  private shown(
    list: (instrument: Instrument) => { thing: Thing; name: string; shapes: Shape[] }[],
  ): Shown[] {
    const instrument = this.desk.instrument();
    if (!instrument) return [];
    return list(instrument).flatMap((one) => {
      const box = boxOf(instrument, one.thing);
      return box ? [{ ...one, box }] : [];
    });
  }

  private step(x: number, y: number, size: number): void {
    this.desk.move(x * size, y * size);
  }

  private takeAll(): void {
    this.desk.taken.set(new Set(this.things().map((one) => one.thing)));
  }

  /** Where a pointer is on the sheet, in panel units. */
  private at(event: PointerEvent): { x: number; y: number } | null {
    const matrix = this.svg()?.nativeElement.getScreenCTM();
    if (!matrix) return null;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x, y };
  }
}

/** The four arrows with a modifier: what each does. */
const arrows = (modifier: string, says: string, act: (x: number, y: number) => void) =>
  (
    [
      ['ArrowLeft', -1, 0],
      ['ArrowRight', 1, 0],
      ['ArrowUp', 0, -1],
      ['ArrowDown', 0, 1],
    ] as const
  ).map(([key, x, y]) => ({
    keys: modifier + key,
    says,
    act: (event: KeyboardEvent) => {
      event.preventDefault();
      act(x, y);
    },
  }));
