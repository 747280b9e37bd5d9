import type { Graph } from '../circuit/graph';
import { createEngine, FULL_SCALE_VOLTS, type EngineOptions } from './engine';
import { BLOCK } from './kernel';

const SCALE = 1 / FULL_SCALE_VOLTS;

export interface RenderOptions extends EngineOptions {
  seconds: number;
  /** Record both sides as well. */
  stereo?: boolean;
  /** Ports to record besides the output, as `node.port`; one value a block. */
  watch?: readonly string[];
  /** Asked between blocks; rendering stops when it says true. */
  cancelled?: () => boolean;
}

export interface Rendering {
  sampleRate: number;
  /** Samples at the output; 1 stands for 10 V. */
  samples: Float32Array;
  /** Left and right, when they were asked for. */
  sides?: [Float32Array, Float32Array];
  /** Watched ports, in the port's unit, the last value of each block. */
  watched: Record<string, Float32Array>;
  /** Samples between two watched values. */
  watchEvery: number;
}

/** A rendering under way. */
export interface RenderJob {
  /** What there is so far: samples and watched values behind the end of it are 0. */
  readonly rendering: Rendering;
  /** Goes on until so many seconds are rendered; less when it has been cancelled. */
  continueTo(seconds: number): void;
}

/** Begins to render what a graph sounds like while keys are played. */
export function startRender(graph: Graph, options: RenderOptions): RenderJob {
  const length = Math.max(1, Math.round(options.seconds * options.sampleRate));
  const blocks = Math.ceil(length / BLOCK);
  const engine = createEngine(graph, options);
  const samples = new Float32Array(length);
  const out = engine.port(graph.output, 'out');
  const sides = options.stereo
    ? (['left', 'right'] as const).map((side) => ({
        from: engine.port(graph.output, side),
        into: new Float32Array(length),
      }))
    : [];
  const watched: Record<string, Float32Array> = {};
  const taps = (options.watch ?? []).map((name) => {
    const [node = '', port = ''] = name.split('.');
    const values = (watched[name] = new Float32Array(blocks));
    return { values, buffer: engine.port(node, port) };
  });
  let block = 0;
  return {
    rendering: {
      sampleRate: options.sampleRate,
      samples,
      watched,
      watchEvery: BLOCK,
      ...(options.stereo ? { sides: [sides[0]!.into, sides[1]!.into] } : {}),
    },
    continueTo(seconds) {
      const end = Math.min(blocks, Math.ceil((seconds * options.sampleRate) / BLOCK));
      for (; block < end; block++) {
        if (block % 64 === 0 && options.cancelled?.()) return;
        const from = block * BLOCK;
        const n = Math.min(BLOCK, length - from);
        engine.advance(n);
        copyScaled(out, samples, from, n);
        for (const side of sides) {
          copyScaled(side.from, side.into, from, n);
        }
        for (const tap of taps) tap.values[block] = tap.buffer[n - 1]!;
      }
    },
  };
}

function copyScaled(volts: Float64Array, into: Float32Array, at: number, n: number): void {
  let i = 0;
  for (; i + 3 < n; i += 4) {
    into[at + i] = volts[i]! * SCALE;
    into[at + i + 1] = volts[i + 1]! * SCALE;
    into[at + i + 2] = volts[i + 2]! * SCALE;
    into[at + i + 3] = volts[i + 3]! * SCALE;
  }
  for (; i < n; i++) into[at + i] = volts[i]! * SCALE;
}

/** Renders what a graph sounds like while keys are played. */
export function render(graph: Graph, options: RenderOptions): Rendering {
  const job = startRender(graph, options);
  job.continueTo(options.seconds + 1);
  return job.rendering;
}

/** Both sides of a stereo rendering, or one where they are the same. */
export function channelsOf(rendering: Rendering): Float32Array[] {
  const { sides, samples } = rendering;
  if (!sides) return [samples];
  return sides[0].every((v, i) => v === sides[1][i]) ? [sides[0]] : sides;
}
