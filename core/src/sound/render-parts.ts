import { BLOCK } from './kernel';
import { Part, type PartSource } from './part';

export interface PartsOptions {
  sampleRate: number;
  /** Quarter notes a minute. */
  tempo: number;
  /** Quarter notes that the patterns play, and seconds that they ring on. */
  beats: number;
  tail: number;
  /** Stretches in which fill is held, in quarter notes. */
  fills?: readonly { from: number; to: number }[];
  /** Asked now and then, with the share 0..1 that is done; rendering stops when it says true. */
  cancelled?: (done: number) => boolean;
}

/**
 * Renders several instruments that play their patterns together, both sides, 1 for 10 V. Same sources, options and seeds:
 * same samples.
 * @returns undefined when it has been cancelled
 */
export function renderParts(
  sources: readonly PartSource[],
  options: PartsOptions,
): [Float32Array, Float32Array] | undefined {
  const { sampleRate, tempo, beats, tail, fills = [], cancelled } = options;
  const parts = sources.map((s) => new Part(s, sampleRate, tempo));
  const plays = Math.round((beats * 60 * sampleRate) / tempo);
  const length = plays + Math.round(tail * sampleRate);
  const sides: [Float32Array, Float32Array] = [new Float32Array(length), new Float32Array(length)];
  let stopped = false;
  for (let from = 0; from < length; from += BLOCK) {
    if ((from / BLOCK) % 64 === 0 && cancelled?.(from / length)) return undefined;
    // The last block of the pattern ends where it does, so that nothing of the next round is struck.
    const limit = from < plays ? Math.min(length, plays) : length;
    const n = Math.min(BLOCK, limit - from);
    const beat = (from * tempo) / 60 / sampleRate;
    const fill = fills.some((f) => beat >= f.from - 1e-9 && beat < f.to - 1e-9);
    for (const part of parts) {
      part.fill = fill;
      if (from >= plays && !stopped) part.stop();
      part.add(sides[0], sides[1], from, n, from < plays);
    }
    if (from >= plays) stopped = true;
    if (n < BLOCK) from -= BLOCK - n;
  }
  return sides;
}
