import { ChangeDetectionStrategy, Component, type OnDestroy, output, signal } from '@angular/core';
import { midiToNote } from '@hurrel/core';

/** Keys of the computer's keyboard as semitones: the home row is white, the row above it black. */
const KEYS: Record<string, number> = {
  KeyA: 0,
  KeyW: 1,
  KeyS: 2,
  KeyE: 3,
  KeyD: 4,
  KeyF: 5,
  KeyT: 6,
  KeyG: 7,
  KeyY: 8,
  KeyH: 9,
  KeyU: 10,
  KeyJ: 11,
  KeyK: 12,
};

/** Lets the computer's keys play single notes, while it is switched on. F2 switches it from anywhere. */
@Component({
  selector: 'hur-piano',
  template: `
    <button
      type="button"
      class="btn"
      [class.on]="on()"
      [attr.aria-pressed]="on()"
      (click)="on.set(!on())"
    >
      <i class="bi bi-keyboard" aria-hidden="true"></i>
      {{ on() ? 'A to K play from ' + name(octave()) : 'Play with the keys' }} <kbd>F2</kbd>
    </button>
    @if (on()) {
      <span class="quiet"
        ><kbd>Z</kbd> <kbd>X</kbd> octave · last {{ last() === null ? '–' : name(last()!) }}</span
      >
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 3px;
      font-size: 12px;
    }
    .btn {
      --bs-btn-padding-x: 6px;
      --bs-btn-font-size: 13px;
      white-space: nowrap;
    }
    .on {
      background: var(--ink);
      color: var(--paper);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Piano implements OnDestroy {
  readonly struck = output<number>();
  protected readonly on = signal(false);
  protected readonly octave = signal(48);
  protected readonly last = signal<number | null>(null);
  protected readonly name = midiToNote;

  // Capturing: while it is on, letters are notes, not readings.
  constructor() {
    document.addEventListener('keydown', this.listen, { capture: true });
  }

  ngOnDestroy(): void {
    document.removeEventListener('keydown', this.listen, { capture: true });
  }

  private readonly listen = (event: KeyboardEvent): void => {
    if (event.key === 'F2') {
      event.preventDefault();
      this.on.update((on) => !on);
      return;
    }
    if (!this.on() || event.ctrlKey || event.metaKey || event.altKey) return;
    const target = event.target;
    if (target instanceof HTMLElement && target.matches('input, textarea, select')) return;
    if (event.code === 'Escape') return this.on.set(false);
    if (event.code === 'KeyZ' || event.code === 'KeyX') {
      this.octave.update((o) => Math.min(96, Math.max(0, o + (event.code === 'KeyX' ? 12 : -12))));
    } else {
      const semitone = KEYS[event.code];
      if (semitone === undefined) return;
      if (!event.repeat) {
        this.last.set(this.octave() + semitone);
        this.struck.emit(this.octave() + semitone);
      }
    }
    event.preventDefault();
    event.stopPropagation();
  };
}
