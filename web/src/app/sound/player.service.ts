import { Injectable, type OnDestroy, signal } from '@angular/core';
import {
  type Instrument,
  notesEnd,
  type PanelBefore,
  type Patch,
  phraseToNotes,
  type TimedNote,
} from '@hurrel/core';
import { proxy } from 'comlink';
import { ask } from '../workers/ask';
import type { PlayChunk, PlayRequest, PlayWorker } from './messages';

/** Seconds that a sound rings on after its last key. */
const TAIL = 1.5;
/** Seconds between the wish to hear and the first sample, so that the second chunk is there in time. */
const LEAD = 0.04;

/** Plays a patch: renders it in a worker and lets each stretch follow the last without a gap. */
@Injectable()
export class PlayerService implements OnDestroy {
  readonly playing = signal(false);
  /** Highest level since the last start, 0..1: so that silence can be told from a missing loudspeaker. */
  readonly peak = signal(0);

  private context: AudioContext | null = null;
  private rendering: AbortController | null = null;
  private sources: AudioBufferSourceNode[] = [];
  private ends = 0;

  playPhrase(instrument: Instrument, patch: Patch): void {
    const notes = phraseToNotes(patch.phrase, patch.tempo);
    this.play(instrument, patch, notes);
  }

  /** Plays a panel that is not the patch's own: a rebuild half done, say. */
  playPanel(instrument: Instrument, patch: Patch, panel: PanelBefore, note: number): void {
    this.play(instrument, { ...patch, ...panel }, [
      { start: 0, duration: 1.2, note, velocity: 100 },
    ]);
  }

  stop(): void {
    this.rendering?.abort();
    this.rendering = null;
    for (const source of this.sources) source.stop();
    this.sources = [];
    this.playing.set(false);
  }

  ngOnDestroy(): void {
    this.stop();
    void this.context?.close();
  }

  private play(instrument: Instrument, patch: Patch, notes: TimedNote[]): void {
    this.stop();
    if (notes.length === 0) return;
    this.context ??= new AudioContext({ latencyHint: 'interactive' });
    void this.context.resume();
    const { sampleRate } = this.context;
    const worker = new Worker(new URL('./play.worker', import.meta.url), { type: 'module' });
    const rendering = (this.rendering = new AbortController());
    this.ends = 0;
    this.peak.set(0);
    this.playing.set(true);
    const request: PlayRequest = {
      instrument,
      patch,
      notes,
      seconds: notesEnd(notes) + TAIL,
      sampleRate,
    };
    const tell = proxy((chunk: PlayChunk) => {
      if (!rendering.signal.aborted) this.append(chunk);
    });
    ask<PlayWorker, void>(worker, (of) => of.play(request, tell), rendering.signal).catch(() => {
      if (!rendering.signal.aborted) this.stop();
    });
  }

  private append({ samples, done }: PlayChunk): void {
    const context = this.context!;
    const buffer = context.createBuffer(1, samples.length, context.sampleRate);
    buffer.copyToChannel(samples, 0);
    const source = new AudioBufferSourceNode(context, { buffer });
    source.connect(context.destination);
    const at = Math.max(this.ends, context.currentTime + (this.ends === 0 ? LEAD : 0));
    source.start(at);
    this.ends = at + buffer.duration;
    this.sources.push(source);
    let peak = 0;
    for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
    this.peak.update((p) => Math.max(p, peak));
    source.onended = () => {
      this.sources = this.sources.filter((s) => s !== source);
      if (done) this.playing.set(false);
    };
  }
}
