import { computed, Injectable, type OnDestroy, signal } from '@angular/core';
import {
  Act,
  compile,
  type Graph,
  type Instrument,
  type Layer,
  type LiveMessage,
  type LiveMeter,
  type LiveSide,
  ownSwitches,
  ownChanges,
  type PartSource,
  type Patch,
  type Pattern,
  onlyLayer,
  phraseToNotes,
  START_VOLUME,
  changesBetween,
  returnChanges,
  bypassing,
} from '@hurrel/core';

/** Quarter notes of a bar: a phrase that goes round begins again at a bar. */
const ROUND = 4;

/** Samples that a tuner looks at. */
const RECENT = 8192;

export type LiveState = 'off' | 'starting' | 'on' | 'failed';

/**
 * Live sound for the page: starts the audio thread at the first wish to hear something, keeps it told of the patch that
 * is open, and passes on what is played.
 */
@Injectable({ providedIn: 'root' })
export class LiveService implements OnDestroy {
  readonly state = signal<LiveState>('off');
  readonly fault = signal('');
  readonly meter = signal<LiveMeter>({
    peak: 0,
    taken: 0,
    held: 0,
    playing: false,
    beat: -1,
    pattern: 0,
  });
  readonly playing = computed(() => this.meter().playing || this.asked());
  readonly volume = signal(START_VOLUME);
  readonly held = signal<ReadonlySet<number>>(new Set());
  /** Which of two sounds is heard. */
  readonly side = signal<LiveSide>('a');
  readonly hasOther = signal(false);
  /** Controls that are taken away, to hear what they contribute. */
  readonly away = signal<ReadonlySet<string>>(new Set());
  /** Layer that is heard alone. */
  readonly alone = signal<Layer | null>(null);
  /** Sound from outside comes in. */
  readonly outside = signal(false);

  /** Patterns run, or will as soon as there is sound. */
  readonly running = signal(false);
  /** Keys move the running pattern instead of sounding. */
  readonly keysMove = signal(false);
  readonly moved = signal(0);

  private readonly asked = signal(false);
  private ran: readonly Pattern[] = [];
  private seed = 1;
  /** The patterns have own values of switches, so that they need circuits of their own. */
  private switching = false;
  private context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<void> | null = null;
  private heard: AnalyserNode | null = null;
  private coming: AnalyserNode | null = null;
  private waiting: LiveMessage[] = [];
  private readonly sent: Record<LiveSide, Graph | null> = { a: null, b: null };
  private tempo = 120;
  private clock: number | null = null;
  private followed: { instrument: Instrument; patch: Patch } | null = null;
  private compiled: Graph | null = null;

  /** Keeps the first sound on what the patch is now. Compiled only once there is sound, or somebody needs the graph. */
  follow(instrument: Instrument, patch: Patch): void {
    this.followed = { instrument, patch };
    this.compiled = null;
    const before = this.bpm;
    this.tempo = patch.tempo;
    if (this.bpm !== before) this.send({ type: 'tempo', side: 'a', tempo: this.bpm });
    this.refresh();
  }

  /** Lets only one layer through where it meets the others; null lets all through again. */
  setAlone(layer: Layer | null): void {
    this.alone.set(layer);
    this.refresh();
  }

  /** Takes controls away, or puts them back when they all are. */
  toggleAway(controls: readonly string[]): void {
    const now = new Set(this.away());
    const back = controls.every((id) => now.has(id));
    for (const id of controls) {
      if (back) now.delete(id);
      else now.add(id);
    }
    this.setAway(now);
  }

  setAway(controls: ReadonlySet<string>): void {
    this.away.set(controls);
    this.refresh();
  }

  /** Puts another patch beside the first, at a gain that makes them equally loud. */
  compareWith(instrument: Instrument, patch: Patch, gain: number): void {
    this.sent.b = null;
    this.tell('b', compile(instrument, patch), patch.tempo);
    this.beside(gain);
  }

  compareWithRecording(sides: readonly Float32Array[], sampleRate: number, gain: number): void {
    const [left, right] = [sides[0]!.slice(), (sides[1] ?? sides[0]!).slice()];
    this.sent.b = null;
    this.send({ type: 'recording', side: 'b', left, right, sampleRate });
    this.beside(gain);
  }

  compareNothing(): void {
    this.hear('a');
    this.send({ type: 'clear', side: 'b' });
    this.sent.b = null;
    this.hasOther.set(false);
  }

  hear(side: LiveSide): void {
    this.side.set(side);
    this.send({ type: 'hear', side });
  }

  setVolume(volume: number): void {
    this.volume.set(volume);
    this.send({ type: 'volume', volume });
  }

  /** Goes at a clock's tempo instead of the patch's own; null goes back to that. */
  followClock(tempo: number | null): void {
    if (this.clock === tempo) return;
    this.clock = tempo;
    for (const side of ['a', 'b'] as const) this.send({ type: 'tempo', side, tempo: this.bpm });
  }

  /** Quarter notes a minute at which everything runs now. */
  get bpm(): number {
    return this.clock ?? this.tempo;
  }

  /** Runs patterns from the beginning; while they run, goes on with them as they are now. */
  run(instrument: Instrument, patch: Patch, patterns: readonly Pattern[], seed = 1): void {
    void this.start();
    this.ran = patterns;
    this.running.set(true);
    this.seed = seed;
    const turns = ownChanges(instrument, patch, patterns);
    const found = ownSwitches(instrument, patch, patterns);
    const switches = found && { ...found, graphs: found.graphs.map((g) => this.asHeard(g)) };
    this.switching = found !== null;
    this.send({ type: 'run', patterns: [...patterns], turns, switches, tempo: this.bpm, seed });
  }

  /** Who plays along, by name: the new ones from the run's next bar on, the others at the level they are given. */
  playBand(parts: Record<string, PartSource>): void {
    this.send({ type: 'band', parts });
  }

  endRun(instrument: Instrument, patch: Patch): void {
    if (!this.running()) return;
    this.running.set(false);
    this.moved.set(0);
    this.send({ type: 'run-stop', returned: returnChanges(instrument, patch, this.ran) });
  }

  queue(pattern: number): void {
    this.send({ type: 'queue', pattern });
  }

  fill(held: boolean): void {
    this.send({ type: 'fill', held });
  }

  mute(track: number, muted: boolean): void {
    this.send({ type: 'mute', track, muted });
  }

  playOver(on: boolean): void {
    this.send({ type: 'play-over', on });
  }

  move(semitones: number): void {
    this.moved.set(semitones);
    this.send({ type: 'move', semitones });
  }

  press(note: number, velocity: number): void {
    if (this.keysMove() && this.running()) return this.move(note - 60);
    this.held.update((held) => new Set(held).add(note));
    this.act(Act.press, note, velocity);
  }

  release(note: number): void {
    this.held.update((held) => new Set([...held].filter((n) => n !== note)));
    this.act(Act.release, note, 0);
  }

  act(act: Act, note: number, value: number): void {
    if (act === Act.press) void this.start();
    this.send({ type: 'act', act, note, value });
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
    await this.start();
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

  /** Plays the phrase of a patch; what is turned meanwhile is heard. */
  playPhrase(patch: Patch, phrase: Patch['phrase'], again: boolean): void {
    const played = phrase.length > 0 ? phrase : [{ beat: 0, length: 2, note: 48, velocity: 100 }];
    const notes = phraseToNotes(played, patch.tempo);
    const last = played.reduce((end, n) => Math.max(end, n.beat + n.length), 0);
    const bar = Math.max(ROUND, Math.ceil(last / ROUND) * ROUND) * (60 / patch.tempo);
    void this.start();
    this.asked.set(true);
    this.send({ type: 'play', notes, ...(again ? { every: bar } : {}) });
  }

  stop(): void {
    this.asked.set(false);
    this.running.set(false);
    this.moved.set(0);
    this.held.set(new Set());
    this.send({ type: 'all-off' });
  }

  ngOnDestroy(): void {
    void this.context?.close();
  }

  /** The first sound, less what is taken away for the moment. */
  private refresh(): void {
    const { followed } = this;
    // Before the first wish to hear something nothing needs the graph.
    if (!followed || this.state() === 'off') return;
    this.compiled ??= compile(followed.instrument, followed.patch);
    this.tell('a', this.asHeard(this.compiled), this.bpm);
  }

  /** A circuit with only the layer that is heard alone, less what is taken away. */
  private asHeard(graph: Graph): Graph {
    const alone = this.alone();
    return bypassing(alone ? onlyLayer(graph, alone) : graph, this.away());
  }

  private beside(gain: number): void {
    this.send({ type: 'gain', side: 'b', gain });
    this.hasOther.set(true);
  }

  private tell(side: LiveSide, graph: Graph, tempo: number): void {
    const before = this.sent[side];
    const turns = before && changesBetween(before, graph);
    this.sent[side] = graph;
    if (!turns) {
      this.send({ type: 'graph', side, graph, tempo });
      const { followed } = this;
      if (side === 'a' && this.running() && this.switching && followed)
        this.run(followed.instrument, followed.patch, this.ran, this.seed);
    } else if (turns.length > 0) this.send({ type: 'turn', side, turns });
  }

  private send(message: LiveMessage): void {
    if (this.node) this.node.port.postMessage(message);
    else this.waiting.push(message);
  }

  private start(): Promise<void> {
    void this.context?.resume();
    return (this.starting ??= this.open().catch((error: unknown) => {
      this.state.set('failed');
      this.asked.set(false);
      this.fault.set(
        `Live sound could not start (${error instanceof Error ? error.message : String(error)}). Reload the page, or try another browser.`,
      );
    }));
  }

  private async open(): Promise<void> {
    this.state.set('starting');
    this.refresh();
    const context = new AudioContext({ latencyHint: 'interactive' });
    this.context = context;
    void context.resume();
    await context.audioWorklet.addModule('audio/live-processor.js');
    const node = new AudioWorkletNode(context, 'hurrel-live', {
      numberOfInputs: 1,
      outputChannelCount: [2],
      processorOptions: { messages: this.waiting },
    });
    this.waiting = [];
    node.port.onmessage = ({ data }: MessageEvent<LiveMeter>) => {
      this.meter.set(data);
      this.asked.set(false);
    };
    node.connect(context.destination);
    this.heard = new AnalyserNode(context, { fftSize: RECENT });
    node.connect(this.heard);
    this.node = node;
    this.state.set('on');
  }
}
