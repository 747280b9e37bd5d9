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
  const kind = (c: Control): string => (isSwitched(c) ? 'switched' : 'turned');
  const sectionsOf = (panel: Instrument): ((c: Control) => string) => {
    const names = new Map(panel.sections.map((s) => [s.id, s.name.toLowerCase()]));
    return (c) => names.get(c.section) ?? '';
  };
  const [sectionBefore, sectionAfter] = [sectionsOf(before), sectionsOf(after)];
  const byName = (panel: Instrument) => (c: Control) =>
    `${kind(c)} ${controlName(panel, c).toLowerCase()}`;
  for (const [old, control] of onlyPairs(open(), [...fresh], byName(before), byName(after)))
    take(old, control, 'moved');
  const bySection = (section: (c: Control) => string) => (c: Control) => `${kind(c)} ${section(c)}`;
  for (const [old, control] of onlyPairs(
    open(),
    [...fresh],
    bySection(sectionBefore),
    bySection(sectionAfter),
  ))
    take(old, control, 'renamed');

  return before.controls.map((old): Pair => {
    const known = found.get(old.id);
    if (now.has(old.id)) return { before: old.id, after: old.id, how: 'same', others: [] };
    const likely = [...fresh].filter((c) => isSwitched(old) === isSwitched(c));
    const here = (c: Control): number => Number(sectionAfter(c) !== sectionBefore(old));
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
  const fresh = (): Jack[] => {
    const taken = new Set(found.values());
    return after.jacks.filter((j) => !was.has(j.id) && !taken.has(j.id));
  };
  const keys: ((j: Jack) => string)[] = [
    (j) => `${j.direction} ${j.name.toLowerCase()}`,
    (j) => `${j.direction} ${j.section}`,
  ];
  for (const key of keys)
    for (const [a, b] of onlyPairs(gone(), fresh(), key, key)) found.set(a.id, b.id);
  return found;
}

/** Pairs of one key that nothing else on either side has. */
function onlyPairs<T>(
  left: readonly T[],
  right: readonly T[],
  keyLeft: (one: T) => string,
  keyRight: (one: T) => string,
): [T, T][] {
  const grouped = (all: readonly T[], key: (one: T) => string): Map<string, T[]> => {
    const groups = new Map<string, T[]>();
    for (const one of all) {
      const group = groups.get(key(one));
      if (group) group.push(one);
      else groups.set(key(one), [one]);
    }
    return groups;
  };
  const others = grouped(right, keyRight);
  return [...grouped(left, keyLeft)].flatMap(([key, [a, ...more]]): [T, T][] => {
    const [b, ...moreRight] = others.get(key) ?? [];
    return a && b && more.length === 0 && moreRight.length === 0 ? [[a, b]] : [];
  });
}
