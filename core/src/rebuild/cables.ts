import type { Cable } from '../patch/schema';

/** One movement of a cable. A `move` keeps one end plugged; `wake` and `rest` switch one that is in on and off. */
export interface CableMove {
  kind: 'pull' | 'move' | 'add';
  /** Cable as it was; absent for one that is added. */
  before?: Cable;
  /** Cable as it shall be; absent for one that is pulled. */
  after?: Cable;
  /** End that moves. */
  end?: 'from' | 'to';
}

export interface CableChange {
  moves: CableMove[];
  /** Cables that stay as they are. */
  left: Cable[];
}

const plugs = (cable: Cable | undefined): string[] =>
  [cable?.from, cable?.to].filter((jack) => jack !== undefined);

const sameEnds = (a: Cable, b: Cable): boolean => a.from === b.from && a.to === b.to;

/** End by which one cable differs from another, when it is one only and the other end is plugged in the same jack. */
function movedEnd(a: Cable, b: Cable): 'from' | 'to' | undefined {
  if (a.from !== undefined && a.from === b.from && a.to !== b.to) return 'to';
  if (a.to !== undefined && a.to === b.to && a.from !== b.from) return 'from';
  return undefined;
}

/**
 * The fewest movements that turn cables into others: what has the same ends stays, and of the rest as many as possible
 * are moved by one end (a maximum matching, by augmenting paths) instead of being pulled and added. They are ordered so
 * that a jack is free when a plug comes; where plugs would change places in a ring, one cable is pulled and added.
 * Cables that are in but not in use count as pulled: a hand need not touch them unless their jack is wanted.
 */
export function cableChange(before: readonly Cable[], after: readonly Cable[]): CableChange {
  const wanted = after.filter((c) => !c.inactive);
  const rest = [...before];
  const left: Cable[] = [];
  const added = wanted.filter((cable) => {
    const at = rest.findIndex((b) => sameEnds(b, cable));
    if (at < 0) return true;
    rest.splice(at, 1);
    left.push(cable);
    return false;
  });
  // What the patch knows as left in may stay, as long as nobody wants its jacks.
  const taken = new Set(wanted.flatMap(plugs));
  const mayStay = (cable: Cable): boolean =>
    after.some((a) => a.inactive === true && sameEnds(a, cable)) &&
    !plugs(cable).some((jack) => taken.has(jack));
  const removed = rest.filter((cable) => !mayStay(cable));
  const match = matchMoves(removed, added);
  const moves: CableMove[] = [];
  removed.forEach((cable, r) => {
    const a = match.indexOf(r);
    if (a < 0) moves.push({ kind: 'pull', before: cable });
    else {
      const to = added[a]!;
      moves.push({ kind: 'move', before: cable, after: to, end: movedEnd(cable, to)! });
    }
  });
  added.forEach((cable, a) => {
    if (match[a] === -1) moves.push({ kind: 'add', after: cable });
  });
  return { moves: inOrder(moves), left };
}

/** For each added cable the removed one that becomes it, or -1: as many pairs as there can be. */
function matchMoves(removed: readonly Cable[], added: readonly Cable[]): number[] {
  const of = new Array<number>(added.length).fill(-1);
  const find = (r: number, seen: Set<number>): boolean => {
    for (const [a, cable] of added.entries()) {
      if (seen.has(a) || movedEnd(removed[r]!, cable) === undefined) continue;
      seen.add(a);
      if (of[a] === -1 || find(of[a]!, seen)) {
        of[a] = r;
        return true;
      }
    }
    return false;
  };
  removed.forEach((_, r) => find(r, new Set()));
  return of;
}

/** Jacks that a movement leaves, and those that it plugs into. */
const leaves = (m: CableMove): string[] =>
  m.kind === 'move'
    ? [m.before![m.end!]].filter((j) => j !== undefined)
    : m.kind === 'pull'
      ? plugs(m.before)
      : [];
const enters = (m: CableMove): string[] =>
  m.kind === 'move'
    ? [m.after![m.end!]].filter((j) => j !== undefined)
    : m.kind === 'add'
      ? plugs(m.after)
      : [];

/** Pulls first, then whatever finds its jacks free; a ring is opened by pulling one cable out. */
function inOrder(moves: readonly CableMove[]): CableMove[] {
  const waiting = [...moves];
  const done: CableMove[] = [];
  const rank = { pull: 0, move: 1, add: 2 };
  waiting.sort((a, b) => rank[a.kind] - rank[b.kind]);
  while (waiting.length > 0) {
    const blocked = (m: CableMove): boolean =>
      enters(m).some((jack) =>
        waiting.some((other) => other !== m && leaves(other).includes(jack)),
      );
    const ready = waiting.findIndex((m) => !blocked(m));
    if (ready >= 0) {
      done.push(...waiting.splice(ready, 1));
      continue;
    }
    const ring = waiting.shift()!;
    done.push({ kind: 'pull', before: ring.before! });
    waiting.push({ kind: 'add', after: ring.after! });
  }
  return done;
}
