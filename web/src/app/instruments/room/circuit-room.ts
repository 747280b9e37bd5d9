import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { shortcutListener, tellShortcuts } from '../../keys/shortcuts';
import { RoomDesk } from './room-desk';
import { between, drawRoom, type DrawnPort, type DrawnWire } from './room-layout';

/** The circuit, drawn: modules with their ports, wired by drag from one to another. */
@Component({
  selector: 'hur-circuit-room',
  templateUrl: './circuit-room.html',
  styleUrl: './circuit-room.scss',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CircuitRoomView {
  protected readonly desk = inject(RoomDesk);
  private readonly svg = viewChild<ElementRef<SVGSVGElement>>('svg');
  private readonly scroll = viewChild<ElementRef<HTMLElement>>('scroll');
  protected readonly drawing = computed(() => drawRoom(this.desk.room()));
  protected readonly zoom = signal(1);
  protected readonly odd = computed(() => new Set(this.desk.room().notes.map((n) => n.module)));
  /** A wire that is being drawn: where it begins, and where the hand is. */
  protected readonly drawn = signal<{ from: DrawnPort; x: number; y: number } | null>(null);
  protected readonly drawnPath = computed(() => {
    const drawn = this.drawn();
    if (!drawn) return '';
    return drawn.from.side === 'outputs' ? between(drawn.from, drawn) : between(drawn, drawn.from);
  });
  protected readonly legend = ['audio', 'pitch', 'modulation', 'gate', 'sync'];
  protected readonly keys = [
    { keys: 'Delete', says: 'Take the module or the wire away', act: () => this.remove() },
    { keys: 'Backspace', says: 'Take the module or the wire away', act: () => this.remove() },
    { keys: 'Escape', says: 'Let go', act: () => this.desk.chosen.set(null) },
  ];
  protected readonly listen = shortcutListener(this.keys);

  constructor() {
    tellShortcuts('Circuit', this.keys.slice(1));
  }

  protected isChosen({ wire }: DrawnWire): boolean {
    return this.desk.wire() === wire;
  }

  /** Whether a wire has to do with the module that is chosen; all have when none is. */
  protected near({ wire }: DrawnWire): boolean {
    const id = this.desk.module()?.id;
    return id === undefined || wire.from.startsWith(`${id}.`) || wire.to.startsWith(`${id}.`);
  }

  /** Sync is told like a clock: it starts things anew. */
  protected carries(signal: string): string {
    return signal === 'sync' ? 'clock' : signal;
  }

  protected begin(event: PointerEvent, port: DrawnPort): void {
    event.stopPropagation();
    if (event.button !== 0) return;
    this.drawn.set({ from: port, x: port.x, y: port.y });
  }

  protected move(event: PointerEvent): void {
    const [drawn, at] = [this.drawn(), this.at(event)];
    if (drawn && at) this.drawn.set({ ...drawn, ...at });
  }

  protected end(event: PointerEvent, port?: DrawnPort): void {
    const drawn = this.drawn();
    if (!drawn) return;
    event.stopPropagation();
    this.drawn.set(null);
    if (port && port !== drawn.from) this.desk.join(drawn.from.port, port.port);
  }

  /** The whole circuit at once, however small. */
  protected fit(): void {
    const room = this.scroll()?.nativeElement;
    const { width, height } = this.drawing();
    if (room) this.zoom.set(Math.min(1, room.clientWidth / width, room.clientHeight / height));
  }

  protected zoomBy(factor: number): void {
    this.zoom.update((z) => Math.min(2, Math.max(0.2, z * factor)));
  }

  private remove(): void {
    this.desk.removeChosen();
    this.svg()?.nativeElement.focus();
  }

  /** Where a pointer is in the drawing. */
  private at(event: PointerEvent): { x: number; y: number } | null {
    const matrix = this.svg()?.nativeElement.getScreenCTM();
    if (!matrix) return null;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    return { x, y };
  }
}
