import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import equal from 'fast-deep-equal';
import {
  type Corners,
  isConvex,
  type Photograph,
  ratioOf,
  SOMEWHERE,
  withPhotograph,
} from '@hurrel/core';
import { ToastService } from '../../ui/toasts';
import { InstrumentDesk } from '../instrument-desk';
import { PhotographsService } from './photographs.service';

/** Least width of a panel in panel units, when its picture is laid: knobs are as large on it as on most. */
const WIDTH = 1000;

/** The photograph beneath the panel that is described: chosen, straightened, shown as much as is wanted. */
@Injectable()
export class PhotographDesk {
  private readonly desk = inject(InstrumentDesk);
  private readonly service = inject(PhotographsService);
  private readonly toasts = inject(ToastService);

  readonly photograph = computed(() => this.desk.whole()?.panel.photograph ?? null);
  /** Its corners are being put on the panel's. */
  readonly straightening = signal(false);
  readonly busy = signal(false);
  readonly fault = signal('');
  /** The panel seen from in front, as a picture for the sheet. */
  readonly seen = signal('');
  /** Size of the picture as it is kept. */
  readonly size = signal<{ width: number; height: number } | null>(null);
  readonly url = computed(() => {
    const photograph = this.photograph();
    return photograph ? this.service.urlOf(photograph.id) : '';
  });
  /** What decides how it is seen: shown more or less it is the same picture. */
  private readonly cut = computed(
    () => {
      const photograph = this.photograph();
      return photograph && { ...photograph, shown: 1 };
    },
    { equal },
  );
  private gestures = 0;

  constructor() {
    effect((cleanup) => {
      const photograph = this.cut();
      if (this.straightening()) return;
      const stop = new AbortController();
      cleanup(() => stop.abort());
      untracked(() => void this.look(photograph, stop.signal));
    });
    effect(() => {
      const url = this.url();
      this.size.set(null);
      if (url === '') return;
      const image = new Image();
      image.onload = () =>
        this.size.set({ width: image.naturalWidth, height: image.naturalHeight });
      image.src = url;
    });
  }

  async choose(file: File): Promise<void> {
    this.fault.set('');
    this.busy.set(true);
    try {
      const { id, width, height } = await this.service.send(file);
      const panel = this.desk.whole()?.panel;
      const across = Math.max(WIDTH, panel?.width ?? 0);
      const down = this.downFor(across, SOMEWHERE, { width, height });
      const laid = { id, corners: SOMEWHERE, width: across, height: down, shown: 0.6 };
      this.desk.editWhole((i) => withPhotograph(i, laid));
      this.straightening.set(true);
    } catch (error) {
      this.fault.set((error as Error).message);
    }
    this.busy.set(false);
  }

  remove(): void {
    this.straightening.set(false);
    this.desk.editWhole((i) => withPhotograph(i, null));
  }

  show(shown: number): void {
    const photograph = this.photograph();
    if (photograph)
      this.desk.editWhole((i) => withPhotograph(i, { ...photograph, shown }), 'photograph-shown');
  }

  /** Makes it as wide on the sheet as so many units, and as high as it then is. */
  widen(width: number): void {
    const photograph = this.photograph();
    if (!photograph) return;
    const height = Math.min(4000, Math.max(40, (photograph.height * width) / photograph.width));
    this.desk.editWhole((i) =>
      withPhotograph(i, { ...photograph, width, height: Math.round(height) }),
    );
  }

  newGesture(): string {
    return `corner-${++this.gestures}`;
  }

  /** Puts a corner of the panel where it is in the picture, shares of its width and height. */
  moveCorner(corner: number, x: number, y: number, gesture: string): void {
    const [photograph, size] = [this.photograph(), this.size()];
    if (!photograph || !size) return;
    const within = (n: number): number => Math.min(1, Math.max(0, n));
    const corners = photograph.corners.map((c, i) =>
      i === corner ? [within(x), within(y)] : c,
    ) as unknown as Photograph['corners'];
    // Corners that cross show nothing: the hand is stopped.
    if (!isConvex(corners)) return;
    const height = this.downFor(photograph.width, corners, size);
    this.desk.editWhole((i) => withPhotograph(i, { ...photograph, corners, height }), gesture);
  }

  done(): void {
    this.straightening.set(false);
  }

  /** Height of the panel for its width: as the real one is, or as the picture shows it. */
  private downFor(
    across: number,
    corners: Corners,
    picture: { width: number; height: number },
  ): number {
    const real = this.desk.whole()?.panel.millimetres;
    const ratio = real ? real.height / real.width : ratioOf(corners, picture);
    return Math.min(4000, Math.max(40, Math.round(across * ratio)));
  }

  private async look(photograph: Photograph | null, stop: AbortSignal): Promise<void> {
    if (!photograph) return this.take('');
    try {
      const blob = await this.service.straight(photograph, stop);
      if (!stop.aborted) this.take(URL.createObjectURL(blob));
    } catch (error) {
      if (stop.aborted) return;
      this.take('');
      this.toasts.show(`The photograph cannot be shown: ${(error as Error).message}`);
    }
  }

  private take(url: string): void {
    const before = this.seen();
    this.seen.set(url);
    if (before !== '') URL.revokeObjectURL(before);
  }
}
