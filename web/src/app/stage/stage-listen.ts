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

/** A place to listen: which keys to play, what one should hear, and how it sounds as far as it is built. */
@Component({
  selector: 'hur-stage-listen',
  template: `
    @if (places.now(); as place) {
      <section role="status" aria-label="Listen" [class.several]="place.checkpoints.length > 1">
        <i class="bi bi-ear" aria-hidden="true"></i>
        @for (checkpoint of place.checkpoints; track $index) {
          <div class="key">
            <p class="which">
              Play <strong class="mono">{{ name(checkpoint.note) }}</strong>
            </p>
            <p class="hear">
              You should hear: {{ checkpoint.hear }}
              @if (told()[$index] || sound.unheard(called($index)); as why) {
                <span class="error">{{ why }}</span>
              }
            </p>
            <button type="button" class="act small" (click)="hear($index)">
              {{ sound.playing(called($index)) ? 'Stop' : 'Hear it so far' }}
              @if ($index === next()) {
                <kbd>H</kbd>
              }
            </button>
          </div>
        }
      </section>
    }
  `,
  styleUrls: ['./stage-parts.scss', './stage-listen.scss'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StageListen {
  protected readonly places = inject(StagePlaces);
  private readonly made = inject(MadeAhead);
  protected readonly sound = inject(StageSound);
  protected readonly name = midiToNote;
  /** What the sound of a place goes by, key by key. */
  protected readonly called = (i: number): string => `${this.places.now()?.name ?? ''} ${i}`;
  /** Why nothing could be rendered, key by key. */
  protected readonly told = signal<readonly string[]>([]);
  private readonly turn = signal(0);
  /** What is stopped, or heard next, at its shortcut: one key of the place after the other. */
  protected readonly next = computed(() => {
    const sounds = this.places.now()?.sounds ?? [];
    const playing = sounds.findIndex((_, i) => this.sound.playing(this.called(i)));
    return playing < 0 ? this.turn() : playing;
  });

  constructor() {
    effect(() => {
      this.places.now();
      this.told.set([]);
      this.turn.set(0);
      this.sound.forget();
    });
    useShortcuts('On stage', [
      {
        keys: 'h',
        says: 'Hear it so far, at a place to listen',
        act: () => this.hear(this.next()),
        when: () => this.places.now() !== undefined,
      },
    ]);
  }

  protected hear(i: number): void {
    const sounds = this.places.now()?.sounds ?? [];
    const asked = sounds[i];
    if (!asked) return;
    this.turn.set((i + 1) % sounds.length);
    this.made.sound(asked).then(
      (sound) =>
        this.sound.toggle(this.called(i), sound, 'Nothing sounds yet, as far as it is built.'),
      (error: Error) => this.told.set(sounds.map((_, k) => (k === i ? error.message : ''))),
    );
  }
}
