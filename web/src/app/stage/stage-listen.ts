import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { midiToNote, peakOf } from '@hurrel/core';
import { useShortcuts } from '../keys/shortcuts';
import { MadeAhead } from './made-ahead';
import type { Sound } from './messages';
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
          @if (told()) {
            <span class="error">{{ told() }}</span>
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
  /** Why nothing is heard. */
  protected readonly told = signal('');
  protected readonly playing = computed(() => this.sound.playing(PLACE));
  protected readonly name = midiToNote;

  constructor() {
    effect(() => {
      this.places.now();
      this.told.set('');
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
      (sound) => {
        if (isSilent(sound)) this.told.set('Nothing sounds yet, as far as it is built.');
        else this.sound.toggle(PLACE, sound);
      },
      (error: Error) => this.told.set(error.message),
    );
  }
}

/** Nothing of it is louder than 60 dB under full scale. */
const isSilent = ({ channels }: Sound): boolean => channels.every((c) => peakOf(c) < 0.001);

/** What the sound of a place goes by. */
const PLACE = 'place';
