import type { SongPart } from './schema';

/** Bars at which each part begins, and how many there are in all. */
export function partStarts(parts: readonly SongPart[]): { starts: number[]; bars: number } {
  let bars = 0;
  const starts = parts.map((part) => {
    const start = bars;
    bars += part.bars;
    return start;
  });
  return { starts, bars };
}
