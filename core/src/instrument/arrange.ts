import type { Placed } from './rack';
import type { Rack } from './schema';

/** A place in a cabinet where a module of some width can stand. */
export interface Gap {
  row: number;
  at: number;
}

/** Room between two modules, in panel units. */
export const BETWEEN_MODULES = 6;

const widthOf = (rack: Rack, type: string): number =>
  rack.types.find((t) => t.id === type)?.width ?? 0;

/** Width of a cabinet: as far as its own arrangement goes, and any other besides. */
export const rackWidth = (rack: Rack, placed: readonly Placed[]): number =>
  Math.max(0, ...[...rack.placed, ...placed].map((p) => p.at + widthOf(rack, p.type)));

/** Places at which a module of a type can be put, by row and from the left: at the start of each gap that is wide enough. */
export function gapsFor(rack: Rack, placed: readonly Placed[], type: string): Gap[] {
  const width = widthOf(rack, type);
  const end = rackWidth(rack, placed);
  const gaps: Gap[] = [];
  for (let row = 0; row < rack.rows; row++) {
    const there = placed.filter((p) => p.row === row).sort((a, b) => a.at - b.at);
    let at = 0;
    for (const p of there) {
      if (p.at - at >= width) gaps.push({ row, at });
      at = p.at + widthOf(rack, p.type) + BETWEEN_MODULES;
    }
    if (end - at >= width) gaps.push({ row, at });
  }
  return gaps;
}

/**
 * An id for one more module of a type: `vco-3`.
 * @param others ids of what is no module: none begins as the module's own will
 */
export function freeModuleId(
  placed: readonly Pick<Placed, 'id'>[],
  type: string,
  others: readonly string[] = [],
): string {
  const taken = new Set(placed.map((p) => p.id));
  const meets = (id: string): boolean =>
    taken.has(id) || others.some((o) => o === id || o.startsWith(`${id}-`));
  let n = 1;
  while (meets(`${type}-${n}`)) n++;
  return `${type}-${n}`;
}
