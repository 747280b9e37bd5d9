/** An order and what it costs. */
export interface Order {
  /** Numbers of what is visited. */
  order: number[];
  cost: number;
}

/** How many are ordered exactly; more are ordered by the nearest next, then improved. */
export const EXACT = 12;

/**
 * The order of visits that costs the least, each visited once, ending anywhere.
 * Exact for up to 12 by the dynamic programme over subsets (Held and Karp 1962); above, nearest next and then exchanges
 * of neighbouring stretches until none helps.
 * @param first cost of going to each from the start
 * @param between cost of going from i to j
 */
export function cheapestOrder(
  first: readonly number[],
  between: readonly (readonly number[])[],
): Order {
  const n = first.length;
  if (n === 0) return { order: [], cost: 0 };
  return n <= EXACT ? exact(first, between) : improved(first, between);
}

const costOf = (
  order: readonly number[],
  first: readonly number[],
  between: readonly (readonly number[])[],
): number =>
  order.reduce((sum, v, i) => sum + (i === 0 ? first[v]! : between[order[i - 1]!]![v]!), 0);

function exact(first: readonly number[], between: readonly (readonly number[])[]): Order {
  const n = first.length;
  const full = 1 << n;
  const cost = Array.from({ length: full }, () => new Float64Array(n).fill(Infinity));
  const came = Array.from({ length: full }, () => new Int8Array(n).fill(-1));
  for (let v = 0; v < n; v++) cost[1 << v]![v] = first[v]!;
  for (let set = 1; set < full; set++) {
    for (let last = 0; last < n; last++) {
      const so = cost[set]![last]!;
      if (!Number.isFinite(so)) continue;
      for (let v = 0; v < n; v++) {
        if (set & (1 << v)) continue;
        const next = set | (1 << v);
        const total = so + between[last]![v]!;
        if (total < cost[next]![v]!) {
          cost[next]![v] = total;
          came[next]![v] = last;
        }
      }
    }
  }
  let set = full - 1;
  let at = cost[set]!.reduce((best, c, v, all) => (c < all[best]! ? v : best), 0);
  const total = cost[set]![at]!;
  const order: number[] = [];
  while (at >= 0) {
    order.unshift(at);
    const before = came[set]![at]!;
    set &= ~(1 << at);
    at = before;
  }
  return { order, cost: total };
}

function improved(first: readonly number[], between: readonly (readonly number[])[]): Order {
  const left = new Set(first.keys());
  let order: number[] = [];
  while (left.size > 0) {
    const last = order.at(-1);
    const row = last === undefined ? first : between[last]!;
    const next = [...left].reduce((best, v) => (row[v]! < row[best]! ? v : best));
    order.push(next);
    left.delete(next);
  }
  let cost = costOf(order, first, between);
  for (let better = true; better;) {
    better = false;
    for (let i = 0; i < order.length; i++) {
      for (let j = 0; j < order.length; j++) {
        if (i === j) continue;
        const moved = order.filter((_, k) => k !== i);
        moved.splice(j, 0, order[i]!);
        const total = costOf(moved, first, between);
        if (total < cost - 1e-9) {
          [order, cost, better] = [moved, total, true];
        }
      }
    }
  }
  return { order, cost };
}
