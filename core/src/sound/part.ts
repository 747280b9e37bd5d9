import type { Graph } from '../circuit/graph';
import type { LockTurns } from '../circuit/lock';
import type { Turn } from '../circuit/turns';
import type { Pattern } from '../sequence/pattern';
import { Engine, FULL_SCALE_VOLTS } from './engine';
import type { Act } from './key-feed';
import { BLOCK } from './kernel';
import { PatternPlayer, type PlayerHands } from './pattern-player';

/** One instrument of several, with what its sequencer plays. */
export interface PartSource {
  graph: Graph;
  /** Empty for a circuit that runs by itself. */
  patterns: readonly Pattern[];
  turns: LockTurns;
  seed?: number;
  /** Linear. */
  gain: number;
  /** -1 left, 1 right. */
  pan: number;
}

/** Seconds that a part takes to get louder, quieter, or to leave. */
const FADE_SECONDS = 0.012;

/** An instrument at work beside others, its keys struck by its own patterns. */
export class Part implements PlayerHands {
  private readonly engine: Engine;
  private readonly player: PatternPlayer | null;
  private readonly out: readonly [Float64Array, Float64Array];
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
    const { graph, patterns, turns, seed = 1 } = source;
    this.engine = new Engine(graph, { sampleRate, tempo, seed });
    this.player =
      patterns.length === 0
        ? null
        : new PatternPlayer(patterns, turns, sampleRate, tempo, this, seed, beat);
    this.out = [this.engine.port(graph.output, 'left'), this.engine.port(graph.output, 'right')];
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
    this.levels[2] = (gain * Math.min(1, 1 - pan)) / FULL_SCALE_VOLTS;
    this.levels[3] = (gain * Math.min(1, 1 + pan)) / FULL_SCALE_VOLTS;
  }

  setTempo(tempo: number): void {
    this.engine.transport.tempo = tempo;
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
    this.engine.advance(n);
    this.addSide(0, left, from, n);
    this.addSide(1, right, from, n);
  }

  play(act: Act, note: number, value: number, after: number): void {
    this.engine.play(act, note, value, after);
  }

  turn({ node, param, value }: Turn): void {
    this.engine.turn(node, param, value);
  }

  private addSide(side: 0 | 1, into: Float64Array | Float32Array, from: number, n: number): void {
    const volts = this.out[side];
    const before = this.levels[side]!;
    const goal = this.levels[2 + side]!;
    // Full level is 1 over what counts as full scale.
    const most = this.blend / FULL_SCALE_VOLTS;
    const way = goal - before;
    const after = way > most ? before + most : way < -most ? before - most : goal;
    this.levels[side] = after;
    const step = (after - before) / n;
    for (let i = 0; i < n; i++) into[from + i] = into[from + i]! + (before + step * i) * volts[i]!;
  }
}
