import { BETWEEN_MODULES, type Gap, gapsFor, rackWidth } from './arrange';
import type { Placed } from './rack';
import type { Rack } from './schema';

/** A place for a module, and what must move along its row for it; nothing where there is a gap. */
export interface Opening extends Gap {
  /** Modules that give way, where they stand then. */
  aside: Placed[];
}

/**
 * Places at which a module of a type can be put: every gap that is wide enough, and in each row that has none, but enough
 * room in all, the one for which the fewest others move; of those the one for which they move the least. By row.
 * @param placed what stands in the cabinet, without the module itself
 */
export function openingsFor(rack: Rack, placed: readonly Placed[], type: string): Opening[] {
  const gaps = gapsFor(rack, placed, type);
  const found: Opening[] = gaps.map((gap) => ({ ...gap, aside: [] }));
  for (let row = 0; row < rack.rows; row++) {
    if (gaps.some((gap) => gap.row === row)) continue;
    const best = bestIn(rack, placed, type, row);
    if (best) found.push(best);
  }
  return found.sort((a, b) => a.row - b.row || a.at - b.at);
}

function bestIn(
  rack: Rack,
  placed: readonly Placed[],
  type: string,
  row: number,
): Opening | undefined {
  const widthOf = (of: string): number => rack.types.find((t) => t.id === of)?.width ?? 0;
  const there = placed.filter((p) => p.row === row).sort((a, b) => a.at - b.at);
  const end = rackWidth(rack, placed);
  const width = widthOf(type);
  let best: { opening: Opening; far: number } | undefined;
  // Between every two neighbours: so many on the left close up to the left, so many on the right to the right.
  for (let between = 0; between <= there.length; between++) {
    for (let left = 0; left <= between; left++) {
      const closed = closeUp(there, between - left, between, widthOf);
      for (let right = 0; right <= there.length - between; right++) {
        const moved = closeDown(there, between, between + right, end, widthOf);
        const next = moved[0]?.at ?? there[between]?.at ?? end;
        if (next - closed.at < width) continue;
        const aside = [...closed.moved, ...moved].filter(
          (p) => there.find((t) => t.id === p.id)!.at !== p.at,
        );
        const far = aside.reduce(
          (sum, p) => sum + Math.abs(p.at - there.find((t) => t.id === p.id)!.at),
          0,
        );
        const fewer = aside.length - (best?.opening.aside.length ?? Infinity);
        if (fewer < 0 || (fewer === 0 && far < best!.far))
          best = { opening: { row, at: closed.at, aside }, far };
      }
    }
  }
  return best?.opening;
}

type WidthOf = (type: string) => number;

/** Some of a row, each right beside the one before it. @returns where the next one would stand, too */
function closeUp(
  there: readonly Placed[],
  from: number,
  to: number,
  widthOf: WidthOf,
): { moved: Placed[]; at: number } {
  const before = there[from - 1];
  let at = before ? before.at + widthOf(before.type) + BETWEEN_MODULES : 0;
  const moved = there.slice(from, to).map((p) => {
    const now = { ...p, at };
    at += widthOf(p.type) + BETWEEN_MODULES;
    return now;
  });
  return { moved, at };
}

/** Some of a row, each right before the one after it. */
function closeDown(
  there: readonly Placed[],
  from: number,
  to: number,
  end: number,
  widthOf: WidthOf,
): Placed[] {
  let free = to < there.length ? there[to]!.at - BETWEEN_MODULES : end;
  const moved: Placed[] = [];
  for (let i = to - 1; i >= from; i--) {
    const at = free - widthOf(there[i]!.type);
    moved.unshift({ ...there[i]!, at });
    free = at - BETWEEN_MODULES;
  }
  return moved;
}
