import equal from 'fast-deep-equal';
import type { Patch } from './schema';

/** Whose change is kept where both changed the same thing. */
export type Side = 'mine' | 'theirs';

export interface Merge {
  /** What comes of both, conflicts decided by `choose`. */
  merged: Patch;
  /** Pointers at which both sides changed the same thing to different values. */
  conflicts: string[];
}

/** Fields that are merged entry by entry, with the key of an entry where they are lists. */
const KEYED: Partial<Record<keyof Patch, ((entry: never) => string) | null>> = {
  settings: null,
  notes: null,
  ends: null,
  meant: null,
  cables: (cable: { id: string }) => cable.id,
  variations: (variation: { id: string }) => variation.id,
  patterns: (pattern: { id: string }) => pattern.id,
  matrix: (row: { row: number }) => String(row.row),
};

const toRecord = (field: unknown, key: ((entry: never) => string) | null): Entries =>
  key === null
    ? ((field ?? {}) as Entries)
    : Object.fromEntries(((field ?? []) as never[]).map((entry) => [key(entry), entry]));

type Entries = Record<string, unknown>;

/**
 * Merges two changes of one patch, control by control. What only one side changed is taken from that side; where both
 * did, `choose` decides.
 */
export function mergePatches(
  base: Patch,
  mine: Patch,
  theirs: Patch,
  choose: (pointer: string) => Side = () => 'mine',
): Merge {
  const conflicts: string[] = [];
  const pick = <T>(pointer: string, b: T, m: T, t: T): T => {
    if (equal(m, t) || equal(t, b)) return m;
    if (equal(m, b)) return t;
    conflicts.push(pointer);
    return choose(pointer) === 'mine' ? m : t;
  };
  const merged: Record<string, unknown> = {};
  const keys = new Set([...Object.keys(mine), ...Object.keys(theirs)]) as Set<keyof Patch>;
  for (const field of keys) {
    const keyed = KEYED[field];
    if (keyed === undefined) {
      const value = pick<unknown>(`/${field}`, base[field], mine[field], theirs[field]);
      if (value !== undefined) merged[field] = value;
      continue;
    }
    const [b, m, t] = [base, mine, theirs].map((p) => toRecord(p[field], keyed)) as [
      Entries,
      Entries,
      Entries,
    ];
    const out: Entries = {};
    for (const key of new Set([...Object.keys(m), ...Object.keys(t)])) {
      const value = pick(`/${field}/${key}`, b[key], m[key], t[key]);
      if (value !== undefined) out[key] = value;
    }
    merged[field] = keyed === null ? out : Object.values(out);
  }
  return { merged: merged as Patch, conflicts };
}
