import { Injectable, type OnDestroy, signal } from '@angular/core';
import { proxy } from 'comlink';
import { ask } from '../workers/ask';
import type { MixRequest, MixWorker } from './messages';
import { startWorker } from '../workers/start';

/** Renders sessions in a worker, and plays what has been rendered. */
@Injectable()
export class MixService implements OnDestroy {
  /** Share that is rendered; null while nothing is. */
  readonly progress = signal<number | null>(null);
  readonly playing = signal(false);
  /** Seconds into what plays. */
  readonly at = signal(0);

  private context: AudioContext | null = null;
  private source: AudioBufferSourceNode | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;

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

  play([left, right]: [Float32Array, Float32Array], sampleRate: number, gain: number): void {
    this.stop();
    const context = (this.context ??= new AudioContext());
    void context.resume();
    const buffer = context.createBuffer(2, left.length, sampleRate);
    buffer.copyToChannel(left as Float32Array<ArrayBuffer>, 0);
    buffer.copyToChannel(right as Float32Array<ArrayBuffer>, 1);
    const source = new AudioBufferSourceNode(context, { buffer });
    const level = new GainNode(context, { gain });
    source.connect(level).connect(context.destination);
    const began = context.currentTime;
    source.start();
    source.onended = () => this.stop();
    this.source = source;
    this.playing.set(true);
    this.timer = setInterval(() => this.at.set(context.currentTime - began), 60);
  }

  stop(): void {
    clearInterval(this.timer);
    if (this.source) {
      this.source.onended = null;
      this.source.stop();
    }
    this.source = null;
    this.playing.set(false);
    this.at.set(0);
  }

  ngOnDestroy(): void {
    this.cancel();
    this.stop();
    void this.context?.close();
  }
}
