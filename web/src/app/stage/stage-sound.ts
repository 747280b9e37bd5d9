import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { peakOf } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { RecordingPlayer } from '../sound/recording-player';
import type { Sound } from './messages';

/** Nothing of it louder than 60 dB under full scale: nobody hears that. */
const SILENCE = 0.001;

/** Plays what was rendered for the stage, one sound at a time: nothing has to keep up. Where nothing is heard it says why. */
@Injectable()
export class StageSound {
  private readonly live = inject(LiveService);
  private readonly player = new RecordingPlayer((why) => this.why.set(why));
  private readonly of = signal('');
  private readonly why = signal('');

  constructor() {
    inject(DestroyRef).onDestroy(() => this.player.close());
  }

  /** Whether that which goes by a name is heard just now. */
  playing(name: string): boolean {
    return this.player.playing() && this.of() === name;
  }

  /** Why that which goes by a name was not heard when it was asked for; empty where it was. */
  unheard(name: string): string {
    return this.of() === name ? this.why() : '';
  }

  /** What was said of a sound that was not heard is over. */
  forget(): void {
    this.why.set('');
  }

  /**
   * Plays a sound at the volume that is set, never above full scale; what is heard already stops instead.
   *
   * @param ifSilent what is said where there is nothing to hear in it
   */
  toggle(name: string, { channels, sampleRate }: Sound, ifSilent: string): void {
    if (this.playing(name)) return this.player.stop();
    const peak = Math.max(...channels.map((c) => peakOf(c)));
    this.player.stop();
    this.of.set(name);
    this.why.set(peak < SILENCE ? ifSilent : '');
    if (peak >= SILENCE) {
      this.player.play(channels, sampleRate, this.live.volume() * Math.min(1, 1 / peak));
    }
  }
}
