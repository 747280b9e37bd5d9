import { controlName } from './control-name';
import type { Jack } from './jack';
import type { Control, Instrument } from './schema';
import { isSwitched } from './switched';

/** What became of a control when its panel was described anew. */
export interface Pair {
  /** Id on the panel as it was. */
  before: string;
  /** Id on the panel as it is; absent when that has to be asked. */
  after?: string;
  how: 'same' | 'renamed' | 'moved' | 'asked';
  /** What else it could be: controls that were not there before and take settings of its kind, the likeliest first. */
  others: string[];
}

/**
 * Pairs the controls of a panel as it was described with those of the panel as it is: by id; then by a name that only one
 * has which is gone and only one which is new (it was moved); then where a section lost one and got one of the same kind (it
 * was renamed). All else has to be asked.
 */
export function pairControls(before: Instrument, after: Instrument): Pair[] {
  const now = new Set(after.controls.map((c) => c.id));
  const was = new Set(before.controls.map((c) => c.id));
  const gone = before.controls.filter((c) => !now.has(c.id));
  const fresh = new Set(after.controls.filter((c) => !was.has(c.id)));
  const found = new Map<string, Pair>();
  const take = (old: Control, control: Control, how: 'renamed' | 'moved'): void => {
    fresh.delete(control);
    found.set(old.id, { before: old.id, after: control.id, how, others: [] });
  };
  const open = (): Control[] => gone.filter((c) => !found.has(c.id));
  const nameIn = (panel: Instrument, c: Control): string => controlName(panel, c).toLowerCase();

  for (const [old, control] of onlyPairs(open(), [...fresh], (a, b) => {
    return alike(a, b) && nameIn(before, a) === nameIn(after, b);
  }))
    take(old, control, 'moved');
  const sectionOf = (panel: Instrument, c: Control): string =>
    (panel.sections.find((s) => s.id === c.section)?.name ?? '').toLowerCase();
  for (const [old, control] of onlyPairs(open(), [...fresh], (a, b) => {
    return alike(a, b) && sectionOf(before, a) === sectionOf(after, b);
  }))
    take(old, control, 'renamed');

  return before.controls.map((old): Pair => {
    const known = found.get(old.id);
    if (now.has(old.id)) return { before: old.id, after: old.id, how: 'same', others: [] };
    const likely = [...fresh].filter((c) => alike(old, c));
    const here = (c: Control): number => Number(sectionOf(after, c) !== sectionOf(before, old));
    const others = likely.sort((a, b) => here(a) - here(b)).map((c) => c.id);
    return known ? { ...known, others } : { before: old.id, how: 'asked', others };
  });
}

/** Jacks that were renamed or moved: ids as they were, with what they are now. */
export function pairJacks(before: Instrument, after: Instrument): ReadonlyMap<string, string> {
  const now = new Set(after.jacks.map((j) => j.id));
  const was = new Set(before.jacks.map((j) => j.id));
  const found = new Map<string, string>();
  const gone = (): Jack[] => before.jacks.filter((j) => !now.has(j.id) && !found.has(j.id));
  const fresh = (): Jack[] =>
    after.jacks.filter((j) => !was.has(j.id) && ![...found.values()].includes(j.id));
  const alike = (a: Jack, b: Jack): boolean => a.direction === b.direction;
  for (const [a, b] of onlyPairs(
    gone(),
    fresh(),
    (a, b) => alike(a, b) && a.name.toLowerCase() === b.name.toLowerCase(),
  ))
    found.set(a.id, b.id);
  for (const [a, b] of onlyPairs(gone(), fresh(), (a, b) => alike(a, b) && a.section === b.section))
    found.set(a.id, b.id);
  return found;
}

const alike = (a: Control, b: Control): boolean => isSwitched(a) === isSwitched(b);

/** Pairs that fit, of those that fit nothing else. */
function onlyPairs<A, B>(
  left: readonly A[],
  right: readonly B[],
  fits: (a: A, b: B) => boolean,
): [A, B][] {
  return left.flatMap((a): [A, B][] => {
    const own = right.filter((b) => fits(a, b));
    const [only] = own;
    if (only === undefined || own.length > 1) return [];
    return left.filter((other) => fits(other, only)).length === 1 ? [[a, only]] : [];
  });
}
