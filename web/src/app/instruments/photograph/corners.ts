import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  viewChild,
} from '@angular/core';
import { PhotographDesk } from './photograph-desk';

const NAMES = ['Upper left', 'Upper right', 'Lower right', 'Lower left'];
/** Shares of the picture that an arrow moves a corner by. */
const STEP = 0.004;
const FINE = 0.0005;

/** A photograph as it was taken, with a handle for each corner of the panel in it. */
@Component({
  selector: 'hur-photograph-corners',
  template: `
    @if (desk.size(); as size) {
      <svg #svg [attr.viewBox]="view()">
        <image [attr.href]="desk.url()" [attr.width]="size.width" [attr.height]="size.height" />
        <path [attr.d]="shape()" />
        @for (c of handles(); track c.name) {
          <g
            role="slider"
            tabindex="0"
            [attr.aria-label]="c.name + ' corner of the panel'"
            [attr.aria-valuenow]="c.percent"
            [attr.aria-valuetext]="c.says"
            aria-valuemin="0"
            aria-valuemax="100"
            (pointerdown)="press($event)"
            (pointermove)="move($event, $index)"
            (pointerup)="release()"
            (pointercancel)="release()"
            (keydown)="key($event, $index)"
          >
            <circle class="touch" [attr.cx]="c.x" [attr.cy]="c.y" [attr.r]="c.r * 2.4" />
            <circle [attr.cx]="c.x" [attr.cy]="c.y" [attr.r]="c.r" />
            <path [attr.d]="c.cross" />
          </g>
        }
      </svg>
    } @else {
      <p class="quiet" role="status">The photograph is coming …</p>
    }
  `,
  styles: `
    :host {
      display: grid;
      flex: 1;
      min-height: 0;
    }
    svg {
      width: 100%;
      height: 100%;
      min-height: 0;
      touch-action: none;
    }
    path {
      fill: var(--accent-wash);
      fill-opacity: 0.25;
      stroke: var(--accent);
      stroke-width: 2px;
      vector-effect: non-scaling-stroke;
    }
    g {
      cursor: grab;
      outline: none;
    }
    circle {
      fill: var(--paper);
      fill-opacity: 0.35;
      stroke: var(--accent);
      stroke-width: 3px;
      vector-effect: non-scaling-stroke;
    }
    .touch {
      fill: transparent;
      stroke: none;
    }
    g:focus-visible circle:not(.touch) {
      fill: var(--accent);
      stroke-width: 5px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PhotographCorners {
  protected readonly desk = inject(PhotographDesk);
  private readonly svg = viewChild<ElementRef<SVGSVGElement>>('svg');
  private gesture = '';

  protected readonly handles = computed(() => {
    const [size, photograph] = [this.desk.size(), this.desk.photograph()];
    if (!size || !photograph) return [];
    const r = size.width / 70;
    return photograph.corners.map(([x, y], i) => {
      const [px, py] = [x * size.width, y * size.height];
      return {
        ...{ name: NAMES[i]!, x: px, y: py, r, percent: Math.round(100 * x) },
        says: `${(100 * x).toFixed(1)} % across, ${(100 * y).toFixed(1)} % down`,
        cross: `M${px - r} ${py}H${px + r}M${px} ${py - r}V${py + r}`,
      };
    });
  });
  /** The picture with room around it: a corner at its very edge can be taken hold of. */
  protected readonly view = computed(() => {
    const { width, height } = this.desk.size() ?? { width: 1, height: 1 };
    const room = 0.025 * width;
    return `${-room} ${-room} ${width + 2 * room} ${height + 2 * room}`;
  });
  protected readonly shape = computed(() => {
    const points = this.handles().map((c) => `${c.x} ${c.y}`);
    return points.length === 0 ? '' : `M${points.join('L')}Z`;
  });

  protected press(event: PointerEvent): void {
    if (event.button !== 0) return;
    (event.currentTarget as SVGElement).focus();
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.gesture = this.desk.newGesture();
  }

  protected move(event: PointerEvent, corner: number): void {
    const [matrix, size] = [this.svg()?.nativeElement.getScreenCTM(), this.desk.size()];
    if (this.gesture === '' || !matrix || !size) return;
    const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse());
    this.desk.moveCorner(corner, x / size.width, y / size.height, this.gesture);
  }

  protected release(): void {
    this.gesture = '';
  }

  protected key(event: KeyboardEvent, corner: number): void {
    const ways: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const [way, at] = [ways[event.key], this.desk.photograph()?.corners[corner]];
    if (!way || !at) return;
    event.preventDefault();
    event.stopPropagation();
    const step = event.shiftKey ? FINE : STEP;
    this.desk.moveCorner(corner, at[0] + way[0] * step, at[1] + way[1] * step, 'corner-keys');
  }
}
