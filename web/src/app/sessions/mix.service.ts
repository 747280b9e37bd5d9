import { inject, Injectable, type OnDestroy, signal } from '@angular/core';
import { proxy } from 'comlink';
import { RecordingPlayer } from '../sound/recording-player';
import { ToastService } from '../ui/toasts';
import { ask } from '../workers/ask';
import type { MixRequest, MixWorker } from './messages';
import { startWorker } from '../workers/start';

/** Renders sessions in a worker, and plays what has been rendered. */
@Injectable()
export class MixService implements OnDestroy {
  /** Share that is rendered; null while nothing is. */
  readonly progress = signal<number | null>(null);
  private readonly toasts = inject(ToastService);
  private readonly player = new RecordingPlayer((why) => this.toasts.show(why));
  readonly playing = this.player.playing;
  /** Seconds into what plays. */
  readonly at = this.player.at;

  /** @returns both sides; null when it has been cancelled, or could not be done */
  async render(request: MixRequest): Promise<[Float32Array, Float32Array] | null> {
    this.cancel();
    const work = (this.work = new AbortController());
    const worker = startWorker('mix');
    this.progress.set(0);
    const progress = proxy((done: number) => {
      if (this.work === work) this.progress.set(done);
    });
    try {
      return await ask<MixWorker, [Float32Array, Float32Array]>(
        worker,
        (of) => of.mix(request, progress),
        work.signal,
      );
    } catch {
      return null;
    } finally {
      if (this.work === work) this.cancel();
    }
  }

  private work: AbortController | null = null;

  cancel(): void {
    this.work?.abort();
    this.work = null;
    this.progress.set(null);
  }

  play(sides: [Float32Array, Float32Array], sampleRate: number, gain: number): void {
    this.player.play(sides, sampleRate, gain);
  }

  stop(): void {
    this.player.stop();
  }

  ngOnDestroy(): void {
    this.cancel();
    this.player.close();
  }
}
