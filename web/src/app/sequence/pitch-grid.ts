import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { midiToNote, stepOf, type Track } from '@hurrel/core';

const WIDTH = 960;
const ROW = 15;
/** Keys that are shown at least. */
const KEYS = 13;

/** A track as notes against steps, for drawing: press to strike or to take away, pull to the right to hold on. */
@Component({
  selector: 'hur-pitch-grid',
  template: `
    <div class="keys" aria-hidden="true">
      @for (key of keys(); track key) {
        <span [class.black]="isBlack(key)">{{
          key % 12 === 0 || key === keys()[0] ? name(key) : ''
        }}</span>
      }
    </div>
    <svg
      [attr.viewBox]="'0 0 ' + width + ' ' + tall()"
      preserveAspectRatio="none"
      [style.height.px]="tall()"
      aria-hidden="true"
      (pointerdown)="begin($event)"
      (pointermove)="pull($event)"
      (pointerup)="began = null"
      (pointercancel)="began = null"
    >
      @for (key of keys(); track key; let i = $index) {
        <rect
          class="row"
          [class.black]="isBlack(key)"
          [attr.y]="i * row"
          [attr.width]="width"
          [attr.height]="row"
        />
      }
      @for (line of lines(); track line.x) {
        <line
          [class.beat]="line.beat"
          [attr.x1]="line.x"
          [attr.x2]="line.x"
          y1="0"
          [attr.y2]="tall()"
        />
      }
      @for (note of notes(); track $index) {
        <rect
          class="note"
          [class.accent]="note.accent"
          [attr.x]="note.x + 1.5"
          [attr.y]="note.y + 1.5"
          [attr.width]="note.width"
          [attr.height]="row - 3"
          rx="2"
        />
        @if (note.slide) {
          <path class="slide" [attr.d]="note.slide" />
        }
      }
      @if (playing() >= from() && playing() < from() + count()) {
        <rect
          class="playing"
          [attr.x]="(playing() - from()) * step()"
          y="0"
          [attr.width]="step()"
          [attr.height]="tall()"
        />
      }
    </svg>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 112px minmax(0, 1fr);
    }
    .keys {
      display: grid;
      grid-auto-rows: 15px;
    }
    .keys span {
      padding-right: 6px;
      font: 600 10.5px/15px var(--mono);
      text-align: right;
      color: var(--ink-2);
    }
    svg {
      display: block;
      width: 100%;
      touch-action: none;
      cursor: crosshair;
    }
    .row {
      fill: var(--paper);
    }
    .row.black {
      fill: var(--table);
    }
    line {
      stroke: var(--rule-2);
    }
    line.beat {
      stroke: var(--rule);
      stroke-width: 2;
    }
    .note {
      fill: var(--accent-wash);
      stroke: var(--accent);
      stroke-width: 1.5;
    }
    .note.accent {
      fill: var(--ink);
      stroke: var(--ink);
    }
    .slide {
      fill: none;
      stroke: var(--ink);
      stroke-width: 2;
    }
    .playing {
      fill: var(--accent);
      opacity: 0.14;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PitchGrid {
  readonly track = input.required<Track>();
  readonly from = input(0);
  readonly count = input(16);
  readonly playing = input(-1);
  /** Key in whose neighbourhood an empty track is shown. */
  readonly around = input(48);
  /** Whether notes are held on by ties. */
  readonly ties = input(true);

  readonly struck = output<{ step: number; note: number }>();
  /** From a step on, through another one. */
  readonly held = output<{ from: number; through: number; gesture: string }>();

  protected readonly width = WIDTH;
  protected readonly row = ROW;
  protected readonly name = midiToNote;
  protected began: { step: number; through: number; gesture: string } | null = null;
  private gestures = 0;

  protected readonly step = computed(() => WIDTH / this.count());
  /** Keys from high to low: all that are used, an octave at least. */
  protected readonly keys = computed(() => {
    const used = this.track().steps.flatMap((s) => s.notes ?? []);
    const middle = this.around();
    let low = Math.min(...(used.length > 0 ? used : [middle])) - 2;
    let high = Math.max(...(used.length > 0 ? used : [middle])) + 2;
    while (high - low + 1 < KEYS) {
      high++;
      if (high - low + 1 < KEYS) low--;
    }
    low = Math.max(0, low);
    high = Math.min(127, Math.min(high, low + 27));
    return Array.from({ length: high - low + 1 }, (_, i) => high - i);
  });
  protected readonly tall = computed(() => ROW * this.keys().length);
  protected readonly lines = computed(() =>
    Array.from({ length: this.count() + 1 }, (_, n) => ({
      x: n * this.step(),
      beat: (this.from() + n) % 4 === 0,
    })),
  );
  protected readonly notes = computed(() => {
    const [track, from, count, width] = [this.track(), this.from(), this.count(), this.step()];
    const high = this.keys()[0]!;
    return Array.from({ length: count }, (_, n) => from + n).flatMap((index) => {
      const step = stepOf(track, index);
      if (!step.notes || index >= track.length) return [];
      let held = 1;
      while (stepOf(track, index + held).tie && index + held < track.length) held++;
      const shown = Math.min(held - 1 + Math.min(1, step.length ?? 0.75), from + count - index);
      const x = (index - from + (step.micro ?? 0)) * width;
      return step.notes.map((note) => {
        const y = (high - note) * ROW;
        const end = x + shown * width;
        return {
          x,
          y,
          width: Math.max(4, shown * width - 3),
          accent: step.accent === true,
          slide: step.slide
            ? `M${end - 4} ${y + ROW / 2} L${x + held * width + 6} ${y + ROW / 2 - 5}`
            : '',
        };
      });
    });
  });

  protected isBlack(key: number): boolean {
    return [1, 3, 6, 8, 10].includes(key % 12);
  }

  protected begin(event: PointerEvent): void {
    const at = this.place(event);
    if (!at) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.began = { step: at.step, through: at.step, gesture: `grid-${this.gestures++}` };
    this.struck.emit(at);
  }

  protected pull(event: PointerEvent): void {
    const { began } = this;
    const at = this.place(event);
    if (!began || !at || !this.ties() || at.step === began.through || at.step < began.step) return;
    began.through = at.step;
    this.held.emit({ from: began.step, through: at.step, gesture: began.gesture });
  }

  private place(event: PointerEvent): { step: number; note: number } | null {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const n = Math.floor((this.count() * (event.clientX - box.left)) / box.width);
    const note = this.keys()[Math.floor((event.clientY - box.top) / ROW)];
    const step = this.from() + n;
    if (n < 0 || n >= this.count() || note === undefined || step >= this.track().length)
      return null;
    return { step, note };
  }
}
