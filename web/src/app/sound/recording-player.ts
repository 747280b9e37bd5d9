import { signal } from '@angular/core';
import { BEGINS_WITHIN, whyStill } from './stands-still';

const LOOK_EVERY = 60;

/** What is played: channels of the same length, at their rate, this loud. */
interface Recording {
  channels: readonly Float32Array[];
  sampleRate: number;
  gain: number;
}

/** Plays what has been rendered or recorded, one at a time, to its end; says so where nothing comes out. */
export class RecordingPlayer {
  readonly playing = signal(false);
  /** Seconds into what plays. */
  readonly at = signal(0);

  private context: AudioContext | null = null;
  private source: AudioBufferSourceNode | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;

  /** @param silent told why nothing is heard */
  constructor(private readonly silent: (why: string) => void) {}

  /** @param channels one, or two of the same length */
  play(channels: readonly Float32Array[], sampleRate: number, gain: number): void {
    const recording = { channels, sampleRate, gain };
    // It is opened anew once, then given up.
    this.begin(recording, () => this.begin(recording, (why) => this.silent(why)));
  }

  /** @param standsStill what is done where the machine's sound does not begin to run; it is let go before */
  private begin(
    { channels, sampleRate, gain }: Recording,
    standsStill: (why: string) => void,
  ): void {
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
    let waited = 0;
    this.timer = setInterval(() => {
      const at = context.currentTime - began;
      this.at.set(at);
      if (at > 0 || (waited += LOOK_EVERY) < BEGINS_WITHIN) return;
      const why = whyStill(context);
      this.close();
      standsStill(why);
    }, LOOK_EVERY);
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
