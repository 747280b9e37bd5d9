import equal from 'fast-deep-equal';

/** Whose change is kept where both changed the same thing. */
export type Side = 'mine' | 'theirs';

/** Decides a conflict, told by its pointer. */
export type Choose = (pointer: string) => Side;

export interface Merge<D> {
  /** What comes of both, conflicts decided by `choose`. */
  merged: D;
  /** Pointers at which both sides changed the same thing to different values. */
  conflicts: string[];
}

/**
 * Fields that are merged entry by entry: `null` for a record, and for a list what gives the key of an entry. All other
 * fields are merged as wholes.
 */
export type Keyed<D> = { readonly [F in keyof D]?: ((entry: never) => string) | null };

type Entries = Record<string, unknown>;

/**
 * Merges two changes of one document, entry by entry. What only one side changed is taken from that side; where both did,
 * `choose` decides. Where no base is known, every difference is decided. Entries of a list stand in my order, or in theirs when only they moved any.
 */
export function mergeDocuments<D extends object>(
  keyed: Keyed<D>,
  base: D | null,
  mine: D,
  theirs: D,
  choose: Choose = () => 'mine',
): Merge<D> {
  const conflicts: string[] = [];
  const pick = <T>(pointer: string, b: T, m: T, t: T): T => {
    if (equal(m, t)) return m;
    if (base !== null && equal(t, b)) return m;
    if (base !== null && equal(m, b)) return t;
    conflicts.push(pointer);
    return choose(pointer) === 'mine' ? m : t;
  };
  const merged: Entries = {};
  for (const field of new Set([...Object.keys(mine), ...Object.keys(theirs)]) as Set<keyof D>) {
    const key = keyed[field];
    const name = `/${String(field)}`;
    const value =
      key === undefined
        ? pick<unknown>(name, base?.[field], mine[field], theirs[field])
        : mergeEntries(name, key, base?.[field], mine[field], theirs[field], pick);
    if (value !== undefined) merged[String(field)] = value;
  }
  return { merged: merged as D, conflicts };
}

function mergeEntries(
  pointer: string,
  key: ((entry: never) => string) | null,
  base: unknown,
  mine: unknown,
  theirs: unknown,
  pick: (pointer: string, b: unknown, m: unknown, t: unknown) => unknown,
): unknown {
  const [b, m, t] = [toRecord(base, key), toRecord(mine, key), toRecord(theirs, key)];
  const out: Entries = {};
  for (const name of orderOf(Object.keys(b), Object.keys(m), Object.keys(t))) {
    const value = pick(`${pointer}/${name}`, b[name], m[name], t[name]);
    if (value !== undefined) out[name] = value;
  }
  return key === null ? out : Object.values(out);
}

const toRecord = (field: unknown, key: ((entry: never) => string) | null): Entries =>
  key === null
    ? ((field ?? {}) as Entries)
    : Object.fromEntries(((field ?? []) as never[]).map((entry) => [key(entry), entry]));

/** Keys of both sides: in my order, unless I have left the base's as it was, or only they have moved any. */
function orderOf(base: string[], mine: string[], theirs: string[]): Set<string> {
  const moved = (side: string[]): boolean =>
    !equal(
      side.filter((key) => base.includes(key)),
      base.filter((key) => side.includes(key)),
    );
  const theirsFirst = equal(mine, base) || (!equal(theirs, base) && moved(theirs) && !moved(mine));
  return new Set(theirsFirst ? [...theirs, ...mine] : [...mine, ...theirs]);
}
