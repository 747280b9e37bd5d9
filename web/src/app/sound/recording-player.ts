import { signal } from '@angular/core';

/** Plays what has been rendered or recorded, one at a time, to its end. */
export class RecordingPlayer {
  readonly playing = signal(false);
  /** Seconds into what plays. */
  readonly at = signal(0);

  private context: AudioContext | null = null;
  private source: AudioBufferSourceNode | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;

  /** @param channels one, or two of the same length */
  play(channels: readonly Float32Array[], sampleRate: number, gain: number): void {
    this.stop();
    const [first] = channels;
    if (!first) return;
    const context = (this.context ??= new AudioContext());
    void context.resume();
    const buffer = context.createBuffer(channels.length, first.length, sampleRate);
    channels.forEach((samples, i) => buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, i));
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

  /** Stops, and lets the sound of the machine go. */
  close(): void {
    this.stop();
    void this.context?.close();
    this.context = null;
  }
}
