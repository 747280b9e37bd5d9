import { type LiveMessage, LiveSound, silentMeter } from '@hurrel/core/sound';

// What the audio thread offers: its types are in none of TypeScript's own libraries.
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
interface Options {
  /** What it is told before it begins. */
  processorOptions?: { messages?: LiveMessage[] };
}
declare function registerProcessor(
  name: string,
  processor: new (options: Options) => AudioWorkletProcessor,
): void;

/** Stretches of 128 samples between two readings of the meter: about 20 a second. */
const METER_EVERY = 18;

/** Live sound in the audio thread. It is told what to do in messages, and says now and then how loud it is. */
class LiveProcessor extends AudioWorkletProcessor {
  private readonly live = new LiveSound(sampleRate);
  private readonly meter = silentMeter();
  private until = METER_EVERY;
  private quiet = false;
  private changed = 0;

  constructor({ processorOptions }: Options) {
    super();
    for (const message of processorOptions?.messages ?? []) this.live.receive(message);
    this.port.onmessage = ({ data }: MessageEvent<LiveMessage>) => this.live.receive(data);
  }

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const out = outputs[0]!;
    const left = out[0]!;
    const outside = inputs[0];
    this.live.process(left, out[1] ?? left, left.length, outside?.[0], outside?.[1]);
    if (--this.until <= 0) this.tell();
    return true;
  }

  private tell(): void {
    this.until = METER_EVERY;
    const { peak, held, playing, beat, changed } = this.live.meter(this.meter);
    const quiet = peak < 1e-5 && held === 0 && !playing && beat < 0;
    // Silence is told once.
    if (!quiet || !this.quiet || changed !== this.changed) this.port.postMessage(this.meter);
    this.quiet = quiet;
    this.changed = changed;
  }
}

registerProcessor('hurrel-live', LiveProcessor);
