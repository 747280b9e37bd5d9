import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { conditionWords, midiToNote, PLAIN, stepOf, type Track, velocityOf } from '@hurrel/core';
import type { SilentSteps } from './assignment.service';

/** Height of a row and width of the whole, in its own units. */
const HEIGHT = 40;
const WIDTH = 960;

/**
 * A track as a row of steps. A hit is a block as tall as it is loud; a tie a bar that goes on; a slide a stroke into the
 * next; an own value a lozenge at the foot; a condition its sign at the head; notes that nobody plays are empty and crossed out, at the corner when others of the step are played.
 */
@Component({
  selector: 'hur-track-row',
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + height"
      preserveAspectRatio="none"
      aria-hidden="true"
      (pointerdown)="press($event)"
    >
      @for (cell of cells(); track cell.index) {
        <g [attr.transform]="'translate(' + cell.x + ',0)'">
          <rect
            class="cell"
            [class.beat]="cell.beat"
            [class.beyond]="cell.beyond"
            [attr.width]="cell.width"
            [attr.height]="height"
          />
          @if (cell.tie) {
            <rect class="tie" x="-2" y="20" [attr.width]="cell.width" height="5" />
          }
          @if (cell.hit) {
            <rect
              class="hit"
              [class.accent]="cell.accent"
              [class.conditioned]="cell.sign"
              [class.silent]="cell.silent"
              [attr.x]="2 + cell.late"
              [attr.y]="34 - cell.tall"
              [attr.width]="cell.width - 4"
              [attr.height]="cell.tall"
              rx="1.5"
            />
          }
          @if (cell.lost) {
            <path
              class="lost"
              [attr.d]="
                cell.silent
                  ? 'M3 33 L' + (cell.width - 3) + ' 10'
                  : 'M' + (cell.width - 11) + ' 22 l8 -8'
              "
            />
          }
          @if (cell.slide) {
            <path
              class="slide"
              [attr.d]="'M' + (cell.width - 9) + ' 30 L' + (cell.width + 5) + ' 18'"
            />
          }
          @if (cell.name) {
            <text
              class="name"
              [class.on-accent]="cell.accent"
              [attr.x]="cell.width / 2 + cell.late"
              y="31"
            >
              {{ cell.name }}
            </text>
          }
          @if (cell.sign) {
            <text class="sign" [attr.x]="cell.width / 2" y="9">{{ cell.sign }}</text>
          }
          @for (ownValue of cell.ownValues; track ownValue) {
            <path
              class="own-value"
              [attr.d]="'M' + ownValue + ' 33 l3.4 3.2 -3.4 3.2 -3.4 -3.2 z'"
            />
          }
          @if (cell.marked) {
            <rect
              class="marked"
              x="1"
              y="1"
              [attr.width]="cell.width - 2"
              [attr.height]="height - 2"
            />
          }
          @if (cell.index === playing()) {
            <rect class="playing" y="0" [attr.width]="cell.width" height="3" />
          }
        </g>
      }
    </svg>
  `,
  styles: `
    /* A sheet of its own for each track: a struck step lays out and paints its own row, not all of them. */
    :host {
      position: relative;
      z-index: 0;
      display: block;
      min-width: 0;
      contain: layout paint;
    }
    svg {
      display: block;
      width: 100%;
      height: 40px;
      touch-action: none;
    }
    .cell {
      fill: var(--paper);
      stroke: var(--rule-2);
    }
    .cell.beat {
      fill: var(--table);
    }
    .cell.beyond {
      fill: none;
      stroke-dasharray: 2 3;
    }
    .hit {
      fill: var(--accent-wash);
      stroke: var(--accent);
      stroke-width: 1.4;
    }
    .hit.accent {
      fill: var(--ink);
      stroke: var(--ink);
    }
    .hit.conditioned {
      stroke-dasharray: 3 2;
    }
    .hit.silent {
      fill: none;
      stroke: var(--ink-3);
    }
    .lost {
      fill: none;
      stroke: var(--ink-2);
      stroke-width: 1.4;
    }
    .tie {
      fill: var(--accent);
    }
    .slide {
      fill: none;
      stroke: var(--ink);
      stroke-width: 2.4;
    }
    text {
      font: 600 11px var(--mono);
      text-anchor: middle;
      fill: var(--ink);
      pointer-events: none;
    }
    .on-accent {
      fill: var(--paper);
    }
    .sign {
      font-size: 9.5px;
      fill: var(--ink-2);
    }
    .own-value {
      fill: var(--wire-modulation);
    }
    .marked {
      fill: none;
      stroke: var(--accent);
      stroke-width: 2.5;
    }
    .playing {
      fill: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TrackRow {
  readonly track = input.required<Track>();
  /** First step that is shown, and how many are. */
  readonly from = input(0);
  readonly count = input(16);
  /** Marked stretch: first step and how many; null when one stands in another track. */
  readonly marked = input<{ step: number; extent: number } | null>(null);
  readonly playing = input(-1);
  /** Steps with notes that are never heard. */
  readonly silent = input<SilentSteps>(new Map());
  /** A single pitch needs no names. */
  readonly named = input(true);

  readonly pressed = output<{ step: number; again: boolean }>();

  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly cells = computed(() => {
    const [track, from, count, marked] = [this.track(), this.from(), this.count(), this.marked()];
    const silent = this.silent();
    const width = WIDTH / count;
    return Array.from({ length: count }, (_, n) => {
      const index = from + n;
      const step = stepOf(track, index);
      const ownValues = Object.keys(step.ownValues ?? {}).length;
      return {
        index,
        x: n * width,
        width,
        beat: Math.floor(index / 4) % 2 === 0,
        beyond: index >= track.length,
        hit: step.notes !== undefined,
        accent: step.accent === true && !silent.get(index),
        silent: silent.get(index) === true,
        lost: silent.has(index),
        tie: step.tie === true,
        slide: step.slide === true,
        tall: 6 + (22 * (step.notes ? velocityOf(step) : PLAIN)) / 127,
        late: (step.micro ?? 0) * width * 0.5,
        name: this.named() && step.notes && width > 22 ? nameOf(step.notes, width) : '',
        sign: step.condition ? signOf(step.condition, width) : '',
        ownValues: Array.from({ length: Math.min(4, ownValues) }, (_, k) => 6 + 8 * k),
        marked: marked !== null && index >= marked.step && index < marked.step + marked.extent,
      };
    });
  });

  protected press(event: PointerEvent): void {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const n = Math.floor((this.count() * (event.clientX - box.left)) / box.width);
    const step = this.from() + Math.max(0, Math.min(this.count() - 1, n));
    this.pressed.emit({ step, again: event.shiftKey });
  }
}

const nameOf = (notes: readonly number[], width: number): string =>
  notes.length === 1 || width > 90 ? notes.map(midiToNote).join(' ') : `${notes.length} keys`;

const signOf = (condition: string, width: number): string => {
  const short: Record<string, string> = {
    fill: 'fill',
    'not-fill': 'no fill',
    first: '1st',
    'not-first': 'not 1st',
    previous: 'prev',
    'not-previous': 'no prev',
  };
  const sign = short[condition] ?? condition;
  return width > 26 ? sign : conditionWords(condition).charAt(0);
};
