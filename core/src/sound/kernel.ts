import type { TimedNote } from '../sequence/phrase';

/** Samples that the engine computes at a time. */
export const BLOCK = 64;

/** One module at work. `process(n)` computes the next n samples, 1..BLOCK, without allocating. */
export interface Kernel {
  process(n: number): void;
}

/** What a kernel is made from. Buffers hold BLOCK samples, in volts, and stay the same for its life. */
export interface KernelContext {
  sampleRate: number;
  params: Readonly<Record<string, number | string>>;
  /** Sum of what is connected to a port; zeros when nothing is. */
  input(port: string): Float64Array;
  connected(port: string): boolean;
  output(port: string): Float64Array;
  /** A generator of its own for each module, uniform in 0..1, the same for the same seed. */
  random: () => number;
  /** Keys that will be played, ordered by start. */
  notes: readonly TimedNote[];
}

export const numberOf = (context: KernelContext, param: string): number =>
  Number(context.params[param]);
