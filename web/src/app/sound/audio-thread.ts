import { Injectable, type OnDestroy, signal } from '@angular/core';
import { type LiveMessage, type LiveMeter, silentMeter } from '@hurrel/core';
import { BEGINS_WITHIN, whyStill } from './stands-still';

/** Milliseconds between two looks at a clock that stands still. */
const LOOK_EVERY = 100;

/** Samples that a tuner looks at. */
const RECENT = 8192;

export type LiveState = 'off' | 'starting' | 'on' | 'failed';

/** The thread that live sound runs in: started at the first wish to hear something; what it is told before waits for it. */
@Injectable({ providedIn: 'root' })
export class AudioThread implements OnDestroy {
  readonly state = signal<LiveState>('off');
  readonly fault = signal('');
  readonly meter = signal<LiveMeter>(silentMeter());
  /** Sound from outside comes in. */
  readonly outside = signal(false);

  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<void> | null = null;
  private heard: AnalyserNode | null = null;
  private coming: AnalyserNode | null = null;
  private waiting: LiveMessage[] = [];
  private looking: ReturnType<typeof setInterval> | undefined;
  /** Lets sound out at the first hand on the page, where a browser waits for that. */
  private readonly letOut = (): void => void this.context?.resume();

  send(message: LiveMessage): void {
    if (this.node) this.node.port.postMessage(message);
    else this.waiting.push(message);
  }

  /** @param first what has to be told before anything is heard */
  start(first: () => void): Promise<void> {
    if (this.context) {
      this.letOut();
      this.watch(this.context);
    }
    return (this.starting ??= this.open(first).catch((error: unknown) => {
      this.state.set('failed');
      this.fault.set(
        `Live sound could not start (${error instanceof Error ? error.message : String(error)}). Reload the page, or try another browser.`,
      );
    }));
  }

  /** The last fifth of a second of what sounds, or of what comes in; null as long as there is none. */
  recent(input: boolean): { samples: Float32Array; sampleRate: number } | null {
    const tap = input ? this.coming : this.heard;
    if (!tap || !this.context) return null;
    const samples = new Float32Array(RECENT);
    tap.getFloatTimeDomainData(samples);
    return { samples, sampleRate: this.context.sampleRate };
  }

  /** Lets sound from outside in, when the browser allows it. */
  async openInput(): Promise<void> {
    if (!this.node || !this.context) return;
    try {
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
      });
      const source = this.context.createMediaStreamSource(stream);
      source.connect(this.node);
      this.coming = new AnalyserNode(this.context, { fftSize: RECENT });
      source.connect(this.coming);
      this.outside.set(true);
    } catch {
      this.fault.set(
        'The browser let no sound in: allow the microphone for this page and try again.',
      );
    }
  }

  ngOnDestroy(): void {
    this.watched();
    void this.context?.close();
  }

  /** Looks at the machine's clock until it runs, and says why nothing is heard as long as it stands still. */
  private watch(context: AudioContext): void {
    if (this.looking !== undefined) return;
    const began = context.currentTime;
    let waited = 0;
    let said = '';
    addEventListener('pointerdown', this.letOut);
    addEventListener('keydown', this.letOut);
    this.looking = setInterval(() => {
      if (context.currentTime > began) {
        this.watched();
        if (this.fault() === said) this.fault.set('');
      } else if ((waited += LOOK_EVERY) >= BEGINS_WITHIN) {
        this.fault.set((said = whyStill(context)));
      }
    }, LOOK_EVERY);
  }

  private watched(): void {
    clearInterval(this.looking);
    this.looking = undefined;
    removeEventListener('pointerdown', this.letOut);
    removeEventListener('keydown', this.letOut);
  }

  private async open(first: () => void): Promise<void> {
    this.state.set('starting');
    first();
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.context = context;
    this.letOut();
    this.watch(context);
    await context.audioWorklet.addModule('audio/live-processor.js');
    const node = new AudioWorkletNode(context, 'hurrel-live', {
      numberOfInputs: 1,
      outputChannelCount: [2],
      processorOptions: { messages: this.waiting },
    });
    this.waiting = [];
    node.port.onmessage = ({ data }: MessageEvent<LiveMeter>) => this.meter.set(data);
    node.connect(context.destination);
    this.heard = new AnalyserNode(context, { fftSize: RECENT });
    node.connect(this.heard);
    this.node = node;
    this.state.set('on');
  }
}
