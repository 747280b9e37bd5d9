import type { Problem } from '../document/problem';
import type { Placed } from './rack';
import type { Rack } from './schema';

/** Checks an arrangement of a cabinet: known types, ids used once, inside its rows, none on top of another. */
export function checkPlaced(placed: readonly Placed[], rack: Rack): Problem[] {
  const problems: Problem[] = [];
  const widths = new Map(rack.types.map((t) => [t.id, t.width]));
  placed.forEach((one, i) => {
    const width = widths.get(one.type);
    if (width === undefined) {
      problems.push({ pointer: `/${i}/type`, message: `There is no module type "${one.type}".` });
      return;
    }
    if (one.row >= rack.rows) {
      problems.push({ pointer: `/${i}/row`, message: `The cabinet has ${rack.rows} rows.` });
    }
    const before = placed.slice(0, i);
    if (before.some((p) => p.id === one.id)) {
      problems.push({ pointer: `/${i}/id`, message: `"${one.id}" is used twice.` });
    }
    const under = before.find(
      (p) =>
        p.row === one.row && p.at < one.at + width && one.at < p.at + (widths.get(p.type) ?? 0),
    );
    if (under) {
      problems.push({ pointer: `/${i}/at`, message: `"${one.id}" stands on "${under.id}".` });
    }
  });
  return problems;
}
