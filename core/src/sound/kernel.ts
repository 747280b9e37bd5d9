import type { GraphFeed } from '../circuit/graph';
import type { KeyFeed } from './key-feed';
import type { Param } from './param';
import type { Random } from './random';

/** Samples that the engine computes at a time. */
export const BLOCK = 64;

/** Zero for what is too small to matter: numbers near the end of their range are slow to compute with. */
export const tiny = (value: number): number => (value > 1e-30 || value < -1e-30 ? value : 0);

/** Whether a signal stands still from one sample to another: much of what follows from it need be computed only once. */
export function isSteady(buffer: Float64Array, from: number, to: number): boolean {
  const first = buffer[from]!;
  for (let i = from + 1; i < to; i++) if (buffer[i] !== first) return false;
  return true;
}

const stillOutputs = new WeakMap<Float64Array, StillOutput>();

/** An output that mostly stands still: a block that holds its value already is left alone. */
export class StillOutput {
  /** What the whole block holds; NaN when it moves. */
  whole = NaN;
  constructor(readonly buffer: Float64Array) {
    stillOutputs.set(buffer, this);
  }

  hold(value: number, from: number, to: number): void {
    if (this.whole === value) return;
    this.buffer.fill(value, from, to);
    this.whole = from === 0 && to === BLOCK ? value : NaN;
  }

  /** Says that the buffer has been written to directly. */
  written(): Float64Array {
    this.whole = NaN;
    return this.buffer;
  }
}

/** Puts samples into an output's buffer in the place of what its module has put there. */
export function overwrite(buffer: Float64Array, samples: Float64Array): void {
  buffer.set(samples);
  const still = stillOutputs.get(buffer);
  if (still) still.whole = NaN;
}

/** Tells of an input whether it stands still, by what its source says of it when that says anything. */
export class Steadiness {
  private readonly source: StillOutput | undefined;

  /** @param idle nothing is connected: it is 0 for ever */
  constructor(
    private readonly buffer: Float64Array,
    private readonly idle: boolean,
  ) {
    this.source = stillOutputs.get(buffer);
  }

  over(from: number, to: number): boolean {
    if (this.idle) return true;
    if (this.source && this.source.whole === this.source.whole) return true;
    return isSteady(this.buffer, from, to);
  }
}

type Held = number | boolean | Float64Array | Int32Array | Uint32Array;

/** One module at work. */
export interface Kernel {
  /**
   * Computes samples `from` up to, without, `to` of the block, without allocating. A block comes in one piece, or sample
   * by sample where modules feed each other in a circle.
   */
  process(from: number, to: number): void;
  /** All that it remembers; a kernel of the same kind goes on from a copy without a jump. */
  readonly state: object;
}

/** Tempo and time that all modules share. */
export interface Transport {
  /** Quarter notes a minute. */
  tempo: number;
  /** Number of the first sample of this block. */
  sample: number;
}

/** What a kernel is made from. Buffers hold BLOCK samples, in volts, and stay the same for its life. */
export interface KernelContext {
  sampleRate: number;
  /** Voices that run side by side at this module, and which of them this kernel is. */
  voices: number;
  voice: number;
  number(param: string): Param;
  choice(param: string): string;
  /** Sum of what is connected to a port; zeros when nothing is. Another voice only where voices meet. */
  input(port: string, voice?: number): Float64Array;
  connected(port: string): boolean;
  /** Whether anything listens to an output. */
  wanted(port: string): boolean;
  output(port: string, voice?: number): Float64Array;
  /** A generator of its own for each module and voice, uniform in 0..1, the same for the same seed. */
  random: Random;
  keys: KeyFeed;
  transport: Transport;
  /** Sound that comes in from outside, left and right. */
  external: readonly [Float64Array, Float64Array];
  /** The recording that this module plays instead, if any. */
  feed?: GraphFeed | undefined;
}

/** Goes on from what another kernel of the same kind remembers, as far as the two agree in shape. */
export function adopt(into: object, from: object): void {
  const a = into as Record<string, Held | object>;
  const b = from as Record<string, Held | object>;
  for (const [key, value] of Object.entries(b)) {
    const own = a[key];
    if (typeof own !== typeof value) continue;
    if (typeof value !== 'object') a[key] = value;
    else if (ArrayBuffer.isView(value)) {
      const mine = own as Float64Array;
      if (mine.length === (value as Float64Array).length) mine.set(value as Float64Array);
    } else if (own) adopt(own as object, value);
  }
}

/** A kernel's own parts, and the function that computes with them. */
class Running<P extends { state: object }> implements Kernel {
  readonly state: object;
  constructor(
    private readonly parts: P,
    private readonly run: (parts: P, from: number, to: number) => void,
  ) {
    this.state = parts.state;
  }
  process(from: number, to: number): void {
    this.run(this.parts, from, to);
  }
}

/**
 * Makes the kernels of a kind: `make` gives each its parts, `run` computes with them. There is only one `run`, so that it
 * stays compiled when a graph is done with: functions made anew for each graph are forgotten with it.
 */
export const kernelOf =
  <P extends { state: object }>(
    make: (context: KernelContext) => P,
    run: (parts: P, from: number, to: number) => void,
  ) =>
  (context: KernelContext): Kernel =>
    new Running(make(context), run);
