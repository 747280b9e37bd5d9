import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { midiToNote } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { KEYS, KeysService } from '../sound/keys.service';

interface Key {
  note: number;
  black: boolean;
  /** Left edge and width in units of a white key. */
  x: number;
  width: number;
  letter: string;
}

const OCTAVES = 3;
const BLACK = [1, 3, 6, 8, 10];
const LETTERS = Object.fromEntries(
  Object.entries(KEYS).map(([code, semitone]) => [semitone, code.slice(3)]),
);

/** Three octaves of keys to play with pointer or fingers; sliding goes from key to key. */
@Component({
  selector: 'hur-keybed',
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + width() + ' 34'"
      preserveAspectRatio="none"
      role="img"
      [attr.aria-label]="'Keys from ' + name(keys.octave()) + ', to be played with a pointer'"
      (pointerdown)="down($event)"
      (pointermove)="over($event)"
      (pointerup)="up($event)"
      (pointercancel)="up($event)"
    >
      @for (key of drawn(); track key.note) {
        <rect
          [attr.data-note]="key.note"
          [class.black]="key.black"
          [class.held]="live.held().has(key.note)"
          [attr.x]="key.x"
          y="0"
          [attr.width]="key.width"
          [attr.height]="key.black ? 20 : 33.5"
        />
      }
    </svg>
    <div class="names mono" aria-hidden="true">
      @for (key of white(); track key.note) {
        <span [class.c]="key.note % 12 === 0">{{
          key.letter || (key.note % 12 === 0 ? name(key.note) : '')
        }}</span>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: minmax(0, 1fr) 20px;
      min-height: 0;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
      touch-action: none;
      user-select: none;
    }
    rect {
      fill: var(--paper);
      stroke: var(--ink-3);
      stroke-width: 1;
      vector-effect: non-scaling-stroke;
      cursor: pointer;
    }
    .black {
      fill: var(--ink-2);
    }
    :host-context([data-light='stage']) rect {
      fill: var(--ink-2);
      stroke: var(--paper);
    }
    :host-context([data-light='stage']) .black {
      fill: var(--table);
    }
    .held,
    :host-context([data-light='stage']) .held {
      fill: var(--accent);
    }
    .names {
      display: grid;
      grid-auto-columns: 1fr;
      grid-auto-flow: column;
      padding-top: 2px;
      color: var(--ink-3);
      font-size: 12px;
      text-align: center;
    }
    .names .c {
      color: var(--ink);
      font-weight: 700;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Keybed {
  protected readonly keys = inject(KeysService);
  protected readonly live = inject(LiveService);
  protected readonly name = midiToNote;
  private readonly fingers = new Map<number, number>();

  protected readonly all = computed<Key[]>(() => {
    let x = 0;
    return Array.from({ length: 12 * OCTAVES + 1 }, (_, i) => {
      const black = BLACK.includes(i % 12);
      const key = {
        note: this.keys.octave() + i,
        black,
        x: black ? 10 * x - 3 : 10 * x,
        width: black ? 6 : 10,
        letter: this.keys.on() ? (LETTERS[i] ?? '') : '',
      };
      if (!black) x++;
      return key;
    });
  });
  protected readonly white = computed(() => this.all().filter((k) => !k.black));
  /** Black keys lie on the white ones. */
  protected readonly drawn = computed(() => [
    ...this.white(),
    ...this.all().filter((k) => k.black),
  ]);
  protected readonly width = computed(() => 10 * this.white().length);

  protected down(event: PointerEvent): void {
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.touch(event);
  }

  protected over(event: PointerEvent): void {
    if (this.fingers.has(event.pointerId)) this.touch(event);
  }

  protected up(event: PointerEvent): void {
    const note = this.fingers.get(event.pointerId);
    this.fingers.delete(event.pointerId);
    if (note !== undefined) this.keys.release(`screen${note}`);
  }

  private touch(event: PointerEvent): void {
    // The pointer is captured: which key lies under it has to be looked up.
    const target = document.elementFromPoint(event.clientX, event.clientY);
    const text = target?.getAttribute('data-note');
    if (text === null || text === undefined) return;
    const note = Number(text);
    const before = this.fingers.get(event.pointerId);
    if (before === note) return;
    if (before !== undefined) this.keys.release(`screen${before}`);
    this.fingers.set(event.pointerId, note);
    this.keys.press(`screen${note}`, [note]);
  }
}
