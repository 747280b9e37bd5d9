import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { midiToNote } from '@hurrel/core';
import { KeysService } from '../sound/keys.service';
import { LiveService } from '../sound/live.service';

/** Lets the computer's keys play, while it is switched on, and says how loud. F2 switches it from anywhere. */
@Component({
  selector: 'hur-piano',
  template: `
    <button
      type="button"
      class="btn"
      [class.on]="keys.on()"
      [attr.aria-pressed]="keys.on()"
      (click)="keys.on.set(!keys.on())"
    >
      <i class="bi bi-keyboard" aria-hidden="true"></i>
      {{ keys.on() ? 'A to K play from ' + name(keys.octave()) : 'Play with the keys' }}
      <kbd>F2</kbd>
    </button>
    @if (keys.on()) {
      <span class="quiet"
        ><kbd>Z</kbd> <kbd>X</kbd> octave · last
        {{ keys.last() === null ? '–' : name(keys.last()!) }}</span
      >
      <span class="quiet"><kbd>Enter</kbd> {{ keys.writing() ? 'ends' : 'begins' }} a reading</span>
    }
    <label class="volume">
      <span>Volume</span>
      <input
        #setVolumeField
        type="range"
        class="form-range"
        min="0"
        max="1"
        step="0.01"
        [value]="live.volume()"
        (input)="live.setVolume(+setVolumeField.value)"
      />
      <span class="mono">{{ percent() }}</span>
    </label>
    @if (!keys.on()) {
      <p class="quiet">A model of the circuit, not the instrument.</p>
    }
    @if (live.fault()) {
      <span class="bad" role="alert">{{ live.fault() }}</span>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 5px;
      font-size: 12px;
    }
    .btn {
      --bs-btn-padding-x: 6px;
      --bs-btn-font-size: 13px;
      white-space: nowrap;
    }
    p {
      margin: 0;
      padding-top: 8px;
    }
    .on {
      background: var(--ink);
      color: var(--paper);
    }
    .volume {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr) 36px;
      gap: 8px;
      align-items: center;
    }
    .volume .mono {
      text-align: right;
    }
    .bad {
      color: var(--bad);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Piano {
  protected readonly keys = inject(KeysService);
  protected readonly live = inject(LiveService);
  protected readonly name = midiToNote;

  protected percent(): string {
    return `${Math.round(100 * this.live.volume())}%`;
  }
}
