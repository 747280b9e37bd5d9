import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import {
  Act,
  compile,
  type Graph,
  type Instrument,
  type Layer,
  type LiveMessage,
  type LiveSide,
  ownSwitches,
  ownChanges,
  type PartSource,
  type Patch,
  type Pattern,
  onlyLayer,
  START_VOLUME,
  changesBetween,
  returnChanges,
  bypassing,
  type WithFed,
} from '@hurrel/core';
import { AudioThread } from './audio-thread';
import type { Heard, KeysUse } from './heard';
import { phraseRound } from './played-phrase';
import { withFedNow } from './fed';
import { ofThePatch } from './of-the-patch';

/**
 * Live sound for the page: starts the audio thread at the first wish to hear something, keeps it told of the patch that
 * is heard, and passes on what is played. It goes on from room to room and from patch to patch.
 */
@Injectable({ providedIn: 'root' })
export class LiveService {
  private readonly thread = inject(AudioThread);
  readonly state = this.thread.state;
  readonly fault = this.thread.fault;
  readonly meter = this.thread.meter;
  readonly outside = this.thread.outside;
  readonly playing = computed(() => this.meter().playing || this.asked());
  readonly volume = signal(START_VOLUME);
  readonly held = signal<ReadonlySet<number>>(new Set());
  /** Which of two sounds is heard, or both. */
  readonly side = signal<LiveSide | 'both'>('a');
  readonly hasOther = signal(false);
  /** Controls that are taken away, to hear what they contribute. */
  readonly away = signal<ReadonlySet<string>>(new Set());
  /** Layer that is heard alone. */
  readonly alone = signal<Layer | null>(null);
  /** Patterns run, or will as soon as there is sound. */
  readonly running = signal(false);
  /** What keys do while a pattern runs. */
  readonly keysUse = signal<KeysUse>('sound');
  readonly moved = signal(0);
  /** The patch that is heard, or will be at the next bar. */
  readonly heard = signal<Heard | null>(null);
  /** A panel that is heard in its place for the moment: another variation, a rebuild half done. */
  readonly instead = signal<Patch | null>(null);
  /** Another patch waits for the bar. */
  readonly goesOver = computed(() => {
    const over = this.over();
    return over !== null && this.meter().changed < over;
  });
  /** Something goes on by itself, or is held. */
  readonly sounds = computed(
    () => this.playing() || this.running() || this.round() || this.held().size > 0,
  );
  /** The phrase goes round. */
  readonly round = signal(false);

  private readonly asked = signal(false);
  /** A panel is heard in place of the patch for one phrase. */
  private lent: 'no' | 'asked' | 'playing' = 'no';
  private readonly ran = signal<readonly Pattern[]>([]);
  private seed = 1;
  /** The patterns have own values of switches, so that they need circuits of their own. */
  private switching = false;
  private readonly sent: Record<LiveSide, Graph | null> = { a: null, b: null };
  private tempo = 120;
  private clock: number | null = null;
  private readonly over = signal<number | null>(null);
  private changes = 0;
  private compiled: Graph | null = null;

  constructor() {
    effect(() => {
      if (this.state() === 'failed' || this.meter()) this.asked.set(false);
    });
    effect(() => {
      const { playing } = this.meter();
      // What was lent for a phrase is given back with it.
      if (this.lent === 'playing' && !playing) untracked(() => this.standIn(null));
      if (this.lent === 'asked' && playing) this.lent = 'playing';
    });
  }

  /**
   * Keeps the first sound on what the patch is now. Compiled only once there is sound, or somebody needs the graph.
   * @param atBar another patch is gone over to at the next bar of what goes on
   */
  follow(heard: Heard, atBar = false): void {
    const before = this.heard();
    const another = before !== null && before.id !== heard.id;
    if (another) {
      this.instead.set(null);
      this.away.set(new Set());
      this.alone.set(null);
      this.sent.a = null;
      this.over.set(atBar && this.sounds() ? ++this.changes : null);
      // What the last one played ends with it: only what hands hold goes on.
      if (this.running()) this.send({ type: 'run-stop', returned: [] });
      if (this.playing()) this.send({ type: 'stop' });
    }
    this.heard.set(heard);
    if (!this.instead()) this.take();
  }

  /** Nothing is open any more: what sounds goes on, what does not is forgotten. */
  leave(id: string): void {
    if (this.heard()?.id === id && !this.sounds()) this.heard.set(null);
  }

  /** Lets a panel be heard in place of the patch; null for the patch again. */
  standIn(patch: Patch | null): void {
    this.lent = 'no';
    if (patch === this.instead()) return;
    this.instead.set(patch);
    this.take();
  }

  /** Plays a phrase on a panel in place of the patch's; what runs already goes on, on that panel. */
  playInstead(patch: Patch, phrase: Patch['phrase']): void {
    this.standIn(patch);
    if (this.running() || this.round()) return;
    this.playPhrase(patch, phrase, false);
    this.lent = 'asked';
  }

  /** Goes over at once to the patch that waits for the bar. */
  goOverNow(): void {
    this.send({ type: 'now' });
    this.over.set(null);
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

  /** Puts another patch beside the first, at a gain that makes them equally loud; once more when what it is fed with has come. */
  compareWith(instrument: Instrument, patch: Patch, gain: number): void {
    this.sent.b = null;
    const graph = compile(
      instrument,
      withFedNow(patch, () => {
        if (this.sent.b === graph) this.compareWith(instrument, patch, gain);
      }),
    );
    this.tell('b', graph, patch.tempo);
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

  hear(side: LiveSide | 'both'): void {
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
    this.endRound();
    this.ran.set(patterns);
    this.running.set(true);
    this.seed = seed;
    const turns = ownChanges(instrument, patch, patterns);
    const found = ownSwitches(instrument, this.fed(patch), patterns);
    const switches = found && { ...found, graphs: found.graphs.map((g) => this.asHeard(g)) };
    this.switching = found !== null;
    this.send({ type: 'run', patterns: [...patterns], turns, switches, tempo: this.bpm, seed });
    this.tellKeys();
  }

  /** Who plays along, by name: the new ones from the run's next bar on, the others at the level they are given. */
  playBand(parts: Record<string, PartSource>): void {
    this.send({ type: 'band', parts });
  }

  endRun(): void {
    const heard = this.heard();
    if (!this.running() || !heard) return;
    this.running.set(false);
    this.moved.set(0);
    const returned = returnChanges(heard.instrument, heard.patch, this.ran());
    this.send({ type: 'run-stop', returned });
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

  useKeys(use: KeysUse): void {
    this.keysUse.set(use);
    this.move(0);
    this.tellKeys();
  }

  /** Whether what runs is rows of voltages: they step in the circuit, and hands hold one key. */
  readonly runsRows = computed(() => {
    const runs = this.running() ? this.ran()[0]?.sequencer : undefined;
    const all = this.heard()?.instrument.sequencers;
    return runs !== undefined && all?.find((s) => s.id === runs)?.kind === 'rows';
  });

  /** Rows go on whatever keys do: pressed ones sound, or move the key that is held. */
  private tellKeys(): void {
    const use = this.keysUse();
    this.send({ type: 'keys', do: use === 'move' || this.runsRows() ? 'sound' : use });
  }

  move(semitones: number): void {
    this.moved.set(semitones);
    this.send({ type: 'move', semitones, held: this.runsRows() });
  }

  press(note: number, velocity: number): void {
    if (this.keysUse() === 'move' && this.running()) return this.move(note - 60);
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
  recent(input: boolean): ReturnType<AudioThread['recent']> {
    return this.thread.recent(input);
  }

  /** Lets sound from outside in, when the browser allows it. */
  async openInput(): Promise<void> {
    await this.start();
    await this.thread.openInput();
  }

  /** Plays the phrase of a patch; what is turned meanwhile is heard. */
  playPhrase(patch: Patch, phrase: Patch['phrase'], again: boolean): void {
    const { notes, bar } = phraseRound(phrase, patch.tempo);
    void this.start();
    this.asked.set(true);
    this.round.set(again);
    this.send({ type: 'play', notes, ...(again ? { every: bar } : {}) });
  }

  /** Everything off, at once. @param hush nothing is heard 50 ms from now, whatever rings, until something is played */
  stop(hush = false): void {
    this.asked.set(false);
    this.running.set(false);
    this.round.set(false);
    this.moved.set(0);
    this.held.set(new Set());
    this.over.set(null);
    this.send({ type: hush ? 'hush' : 'all-off' });
  }

  /** Ends a phrase, alone or going round; what is held goes on. */
  endRound(): void {
    if (!this.playing() && !this.round()) return;
    this.asked.set(false);
    this.round.set(false);
    this.send({ type: 'stop' });
  }

  /** Takes what is to be heard now. */
  private take(): void {
    const heard = this.heard();
    if (!heard) return;
    this.compiled = null;
    const before = this.bpm;
    this.tempo = heard.patch.tempo;
    if (this.bpm !== before) this.send({ type: 'tempo', side: 'a', tempo: this.bpm });
    this.refresh();
  }

  /** The first sound, less what is taken away for the moment. */
  private refresh(): void {
    const heard = this.heard();
    // Before the first wish to hear something nothing needs the graph.
    if (!heard || this.state() === 'off') return;
    this.compiled ??= compile(heard.instrument, this.fed(this.instead() ?? heard.patch));
    this.tell('a', this.asHeard(this.compiled), this.bpm);
  }

  /** With what it is fed with; as soon as that has come, where it has not. */
  private fed(patch: Patch): Patch & WithFed {
    return withFedNow(patch, () => {
      this.compiled = null;
      this.refresh();
    });
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
      this.send({ type: 'graph', side, graph, tempo, ...(before ? {} : { fresh: true }) });
      const heard = this.heard();
      if (side === 'a' && before && this.running() && this.switching && heard)
        this.run(heard.instrument, heard.patch, this.ran(), this.seed);
    } else if (turns.length > 0) this.send({ type: 'turn', side, turns });
  }

  /** What concerns a patch that waits for the bar waits with it. */
  private send(message: LiveMessage): void {
    const change = this.over();
    if (change === null || !this.goesOver() || !ofThePatch(message)) this.thread.send(message);
    else this.thread.send({ type: 'at-bar', change, messages: [message] });
  }

  private start(): Promise<void> {
    return this.thread.start(() => this.refresh());
  }
}
