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

const KEYED = ['settings', 'notes'] as const;

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
  for (const key of keys) {
    if ((KEYED as readonly string[]).includes(key)) continue;
    const value = pick<unknown>(`/${key}`, base[key], mine[key], theirs[key]);
    if (value !== undefined) merged[key] = value;
  }
  for (const field of KEYED) {
    const [b, m, t] = [base[field], mine[field], theirs[field]] as Record<string, unknown>[];
    const out: Record<string, unknown> = {};
    for (const key of new Set([...Object.keys(m!), ...Object.keys(t!)])) {
      const value = pick(`/${field}/${key}`, b![key], m![key], t![key]);
      if (value !== undefined) out[key] = value;
    }
    merged[field] = out;
  }
  return { merged: merged as Patch, conflicts };
}
