import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { KeysService, PADS } from './keys.service';

/** Chords to be played with a pointer, or with Enter: as long as they are held. */
@Component({
  selector: 'hur-chord-pads',
  template: `
    @for (pad of pads; track $index) {
      <button
        type="button"
        (pointerdown)="keys.pressPad($index)"
        (pointerup)="keys.releasePad($index)"
        (pointerleave)="keys.releasePad($index)"
        (keydown.enter)="keys.pressPad($index)"
        (keyup.enter)="keys.releasePad($index)"
      >
        <kbd>{{ $index + 1 }}</kbd> {{ keys.padName(pad) }}
      </button>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(8, minmax(0, 1fr));
      gap: 6px;
    }
    button {
      overflow: hidden;
      min-height: 44px;
      padding: 2px 4px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--paper);
      color: var(--ink);
      font-size: 13px;
      text-overflow: ellipsis;
      touch-action: none;
    }
    button:active {
      background: var(--accent);
      color: var(--accent-ink);
    }
    kbd {
      display: block;
      width: fit-content;
      margin: 0 auto 1px;
    }
    @media (max-width: 1180px) {
      :host {
        grid-template-columns: repeat(4, minmax(0, 1fr));
      }
    }
  `,
  host: { role: 'group', 'aria-label': 'Chords' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ChordPads {
  protected readonly keys = inject(KeysService);
  protected readonly pads = PADS;
}
