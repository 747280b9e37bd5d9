import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { midiToNote } from '@hurrel/core';
import { useShortcuts } from '../keys/shortcuts';
import { MadeAhead } from './made-ahead';
import { StagePlaces } from './stage-places';
import { StageSound } from './stage-sound';

/** A place to listen: which key to play, what one should hear, and how it sounds as far as it is built. */
@Component({
  selector: 'hur-stage-listen',
  template: `
    @if (places.now(); as place) {
      <section role="status" aria-label="Listen">
        <i class="bi bi-ear" aria-hidden="true"></i>
        <p>
          Play <strong class="mono">{{ name(place.checkpoint.note) }}</strong>
        </p>
        <p class="hear">
          You should hear: {{ place.checkpoint.hear }}
          @if (error()) {
            <span class="error">{{ error() }}</span>
          }
        </p>
        <button type="button" class="act small" (click)="hear()">
          {{ playing() ? 'Stop' : 'Hear it so far' }} <kbd>H</kbd>
        </button>
      </section>
    }
  `,
  styleUrls: ['./stage-parts.scss', './stage-listen.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageListen {
  protected readonly places = inject(StagePlaces);
  private readonly made = inject(MadeAhead);
  private readonly sound = inject(StageSound);
  protected readonly error = signal('');
  protected readonly playing = computed(() => this.sound.playing(PLACE));
  protected readonly name = midiToNote;

  constructor() {
    effect(() => {
      this.places.now();
      this.error.set('');
    });
    useShortcuts('On stage', [
      {
        keys: 'h',
        says: 'Hear it so far, at a place to listen',
        act: () => this.hear(),
        when: () => this.places.now() !== undefined,
      },
    ]);
  }

  protected hear(): void {
    const place = this.places.now();
    if (!place) return;
    this.made.sound(place.sound).then(
      (sound) => this.sound.toggle(PLACE, sound),
      (error: Error) => this.error.set(error.message),
    );
  }
}

/** What the sound of a place goes by. */
const PLACE = 'place';
