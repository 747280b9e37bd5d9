import { moduleSpec } from '../circuit/catalogue';
import type { Edge, Graph, GraphNode } from '../circuit/graph';
import { edgesInto } from '../circuit/graph';
import type { TimedNote } from '../sequence/phrase';
import type { Kernel, KernelContext } from './kernel';
import { BLOCK } from './kernel';
import { kernels } from './kernels';
import { seededRandom, seedFor } from './random';

/** Volts at the output that a sample of 1 stands for. */
export const FULL_SCALE_VOLTS = 10;

export interface EngineOptions {
  sampleRate: number;
  /** Keys to play; any order. */
  notes: readonly TimedNote[];
  /** Same seed, same samples. Default 1. */
  seed?: number;
}

/** A graph at work, block by block. */
export interface Engine {
  /** Computes the next n samples, 1..BLOCK. */
  advance(n: number): void;
  /** What stands at a port of the last block, in V (readings in their own unit). The buffer is reused. */
  port(node: string, port: string): Float64Array;
}

interface Mix {
  into: Float64Array;
  from: Float64Array[];
}

/** Prepares a graph for computing. Same graph, notes, seed and sample rate: same samples. */
export function createEngine(graph: Graph, options: EngineOptions): Engine {
  const notes = [...options.notes].sort((a, b) => a.start - b.start);
  const outputs = new Map<string, Float64Array>();
  for (const node of graph.nodes) {
    for (const port of Object.keys(moduleSpec(node.kind).outputs)) {
      outputs.set(`${node.id}.${port}`, new Float64Array(BLOCK));
    }
  }
  const silence = new Float64Array(BLOCK);
  const steps: { mixes: Mix[]; kernel: Kernel }[] = graph.nodes.map((node) => {
    const mixes: Mix[] = [];
    const input = (port: string): Float64Array => {
      const sources = edgesInto(graph, node.id, port).map((e) => sourceOf(e, outputs));
      if (sources.length === 0) return silence;
      if (sources.length === 1) return sources[0]!;
      const into = new Float64Array(BLOCK);
      mixes.push({ into, from: sources });
      return into;
    };
    return {
      mixes,
      kernel: kernels[node.kind](contextOf(node, graph, options, notes, input, outputs)),
    };
  });
  return {
    advance(n) {
      for (const { mixes, kernel } of steps) {
        for (const { into, from } of mixes) {
          into.set(from[0]!);
          for (let s = 1; s < from.length; s++) {
            const source = from[s]!;
            for (let i = 0; i < n; i++) into[i]! += source[i]!;
          }
        }
        kernel.process(n);
      }
    },
    port(node, port) {
      const buffer = outputs.get(`${node}.${port}`);
      if (!buffer) throw new Error(`There is no output "${node}.${port}".`);
      return buffer;
    },
  };
}

const sourceOf = (edge: Edge, outputs: ReadonlyMap<string, Float64Array>): Float64Array =>
  outputs.get(`${edge.from.node}.${edge.from.port}`)!;

function contextOf(
  node: GraphNode,
  graph: Graph,
  options: EngineOptions,
  notes: readonly TimedNote[],
  input: (port: string) => Float64Array,
  outputs: ReadonlyMap<string, Float64Array>,
): KernelContext {
  return {
    sampleRate: options.sampleRate,
    params: node.params,
    input,
    connected: (port) => edgesInto(graph, node.id, port).length > 0,
    output: (port) => outputs.get(`${node.id}.${port}`)!,
    random: seededRandom(seedFor(node.id, options.seed ?? 1)),
    notes,
  };
}
