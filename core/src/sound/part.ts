import type { Graph } from '../circuit/graph';
import type { LockTurns } from '../circuit/lock';
import type { Turn } from '../circuit/turns';
import type { Pattern } from '../sequence/pattern';
import { Engine, FULL_SCALE_VOLTS } from './engine';
import type { Act } from './key-feed';
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

/** An instrument at work beside others, its keys struck by its own patterns. */
export class Part implements PlayerHands {
  private readonly engine: Engine;
  private readonly player: PatternPlayer | null;
  private readonly left: number;
  private readonly right: number;

  constructor(source: PartSource, sampleRate: number, tempo: number) {
    const { graph, patterns, turns, seed = 1, gain, pan } = source;
    this.engine = new Engine(graph, { sampleRate, tempo, seed });
    this.player =
      patterns.length === 0
        ? null
        : new PatternPlayer(patterns, turns, sampleRate, tempo, this, seed);
    // Balance: the side away from which one pans gets quieter.
    this.left = (gain * Math.min(1, 1 - pan)) / FULL_SCALE_VOLTS;
    this.right = (gain * Math.min(1, 1 + pan)) / FULL_SCALE_VOLTS;
  }

  /** Whether fill is held. */
  set fill(held: boolean) {
    if (this.player) this.player.run.fill = held;
  }

  setTempo(tempo: number): void {
    this.engine.transport.tempo = tempo;
    this.player?.setTempo(tempo);
  }

  /** Lets go of its keys. What rings on rings on. */
  stop(): void {
    this.player?.stop();
  }

  /** Adds the next n samples, a block at most, to both sides. @param plays whether its patterns go on */
  add(
    left: Float64Array | Float32Array,
    right: Float64Array | Float32Array,
    from: number,
    n: number,
    plays: boolean,
  ): void {
    if (plays) this.player?.advance(n);
    this.engine.advance(n);
    const { output } = this.engine.graph;
    const l = this.engine.port(output, 'left');
    const r = this.engine.port(output, 'right');
    for (let i = 0; i < n; i++) {
      left[from + i] = left[from + i]! + this.left * l[i]!;
      right[from + i] = right[from + i]! + this.right * r[i]!;
    }
  }

  play(act: Act, note: number, value: number, after: number): void {
    this.engine.play(act, note, value, after);
  }

  turn({ node, param, value }: Turn): void {
    this.engine.turn(node, param, value);
  }
}
