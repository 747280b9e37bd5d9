import type { Graph } from '../circuit/graph';
import type { OwnSwitches, OwnChanges } from '../circuit/own-values';
import type { ParamChange } from '../circuit/param-changes';
import type { Pattern } from '../pattern/pattern';
import { EngineSource } from './engine-source';
import type { Act } from './key-feed';
import { BLOCK } from './kernel';
import { PatternPlayer, type PatternKeys } from './pattern-player';

/** One instrument of several, with what its sequencer plays. */
export interface PartSource {
  graph: Graph;
  /** Empty for a circuit that runs by itself. */
  patterns: readonly Pattern[];
  turns: OwnChanges;
  /** Circuits that its own values run through, when they exchange any. */
  switches?: OwnSwitches | null;
  seed?: number;
  /** Linear. */
  gain: number;
  /** -1 left, 1 right. */
  pan: number;
}

/** Seconds that a part takes to get louder, quieter, or to leave. */
const FADE_SECONDS = 0.012;

/** An instrument at work beside others, its keys struck by its own patterns. */
export class Part implements PatternKeys {
  private readonly engines: EngineSource;
  private readonly player: PatternPlayer | null;
  private readonly sides = [new Float64Array(BLOCK), new Float64Array(BLOCK)] as const;
  /** Level of each side now, and where it is on its way to. */
  private readonly levels = new Float64Array(4);
  private readonly blend: number;
  private leaving = false;

  /** @param beat quarter note of its patterns at which it begins; below 0 it waits */
  constructor(
    readonly source: PartSource,
    sampleRate: number,
    tempo: number,
    beat = 0,
  ) {
    const { graph, patterns, turns, switches = null, seed = 1 } = source;
    this.engines = new EngineSource(sampleRate, true, seed);
    this.engines.change(graph, tempo);
    if (switches) this.engines.prepare(switches.graphs, switches.keys);
    this.player =
      patterns.length === 0
        ? null
        : new PatternPlayer(patterns, turns, switches, sampleRate, tempo, this, seed, beat);
    this.blend = BLOCK / (FADE_SECONDS * sampleRate);
    this.mix(source.gain, source.pan);
    this.levels.copyWithin(0, 2);
  }

  /** Whether fill is held. */
  set fill(held: boolean) {
    if (this.player) this.player.run.fill = held;
  }

  /** @param gain linear @param pan -1 left, 1 right: the side away from which one pans gets quieter */
  mix(gain: number, pan: number): void {
    this.levels[2] = gain * Math.min(1, 1 - pan);
    this.levels[3] = gain * Math.min(1, 1 + pan);
  }

  setTempo(tempo: number): void {
    if (this.engines.engine) this.engines.engine.transport.tempo = tempo;
    this.player?.setTempo(tempo);
  }

  /** Lets go of its keys. What rings on rings on. */
  stop(): void {
    this.player?.stop();
  }

  /** Lets go and fades out. */
  leave(): void {
    this.stop();
    this.leaving = true;
    this.mix(0, 0);
  }

  /** It has left and cannot be heard any more. */
  get gone(): boolean {
    return this.leaving && this.levels[0] === 0 && this.levels[1] === 0;
  }

  /** Adds the next n samples, a block at most, to both sides. @param plays whether its patterns go on */
  add(
    left: Float64Array | Float32Array,
    right: Float64Array | Float32Array,
    from: number,
    n: number,
    plays: boolean,
  ): void {
    if (plays && !this.leaving) this.player?.advance(n);
    this.sides[0].fill(0);
    this.sides[1].fill(0);
    this.engines.add(this.sides[0], this.sides[1], n);
    this.addSide(0, left, from, n);
    this.addSide(1, right, from, n);
  }

  play(act: Act, note: number, value: number, after: number): void {
    this.engines.engine?.play(act, note, value, after);
  }

  turn({ node, param, value }: ParamChange): void {
    this.engines.engine?.turn(node, param, value);
  }

  exchange(circuit: number): void {
    this.engines.exchange(circuit);
  }

  private addSide(side: 0 | 1, into: Float64Array | Float32Array, from: number, n: number): void {
    const heard = this.sides[side];
    const before = this.levels[side]!;
    const goal = this.levels[2 + side]!;
    const most = this.blend;
    const way = goal - before;
    const after = way > most ? before + most : way < -most ? before - most : goal;
    this.levels[side] = after;
    const step = (after - before) / n;
    for (let i = 0; i < n; i++) into[from + i] = into[from + i]! + (before + step * i) * heard[i]!;
  }
}
