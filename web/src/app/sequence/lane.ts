import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';

const WIDTH = 960;
const HEIGHT = 34;

/** Values of one thing, step by step, as bars that can be drawn. */
@Component({
  selector: 'hur-lane',
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      preserveAspectRatio="none"
      aria-hidden="true"
      (pointerdown)="begin($event)"
      (pointermove)="draw($event)"
      (pointerup)="drawing = null"
      (pointercancel)="drawing = null"
    >
      <line class="foot" x1="0" [attr.x2]="width" [attr.y1]="height - 1" [attr.y2]="height - 1" />
      @for (bar of bars(); track bar.index) {
        @if (bar.value !== null) {
          <rect
            class="bar"
            [attr.x]="bar.x + 3"
            [attr.y]="height - bar.tall"
            [attr.width]="bar.width - 6"
            [attr.height]="bar.tall"
          />
        } @else {
          <line
            class="none"
            [attr.x1]="bar.x + bar.width / 2 - 3"
            [attr.x2]="bar.x + bar.width / 2 + 3"
            [attr.y1]="height - 5"
            [attr.y2]="height - 5"
          />
        }
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: 34px;
      background: var(--paper);
      touch-action: none;
    }
    .foot,
    .none {
      stroke: var(--rule);
    }
    .bar {
      fill: var(--ink-3);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Lane {
  /** 0..1 by step; null where there is nothing. */
  readonly values = input.required<(number | null)[]>();
  readonly from = input(0);
  readonly count = input(16);

  readonly drawn = output<{ step: number; value: number; gesture: string }>();

  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected drawing: string | null = null;
  private gestures = 0;
  protected readonly bars = computed(() => {
    const width = WIDTH / this.count();
    return Array.from({ length: this.count() }, (_, n) => {
      const index = this.from() + n;
      const value = this.values()[index] ?? null;
      return { index, x: n * width, width, value, tall: 3 + (HEIGHT - 4) * (value ?? 0) };
    });
  });

  protected begin(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.drawing = `lane-${this.gestures++}`;
    this.draw(event);
  }

  protected draw(event: PointerEvent): void {
    if (this.drawing === null) return;
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const n = Math.floor((this.count() * (event.clientX - box.left)) / box.width);
    if (n < 0 || n >= this.count()) return;
    const value = Math.min(1, Math.max(0, 1 - (event.clientY - box.top) / box.height));
    this.drawn.emit({ step: this.from() + n, value, gesture: this.drawing });
  }
}
