import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { peakOf } from '@hurrel/core';
import { LiveService } from '../sound/live.service';
import { RecordingPlayer } from '../sound/recording-player';
import { ToastService } from '../ui/toasts';
import type { Sound } from './messages';

/** Plays what was rendered for the stage, one sound at a time: nothing has to keep up. */
@Injectable()
export class StageSound {
  private readonly live = inject(LiveService);
  private readonly toasts = inject(ToastService);
  private readonly player = new RecordingPlayer((why) => this.toasts.show(why));
  private readonly of = signal('');

  constructor() {
    inject(DestroyRef).onDestroy(() => this.player.close());
  }

  /** Whether that which goes by a name is heard just now. */
  playing(name: string): boolean {
    return this.player.playing() && this.of() === name;
  }

  /** Plays a sound at the volume that is set, never above full scale; what is heard already stops instead. */
  toggle(name: string, { channels, sampleRate }: Sound): void {
    if (this.playing(name)) return this.player.stop();
    const peak = Math.max(...channels.map((c) => peakOf(c)));
    this.of.set(name);
    this.player.play(
      channels,
      sampleRate,
      this.live.volume() * Math.min(1, 1 / Math.max(peak, 1e-9)),
    );
  }
}
