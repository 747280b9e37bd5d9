import type { Control, Instrument } from './schema';

const sides = new WeakMap<Instrument, ReadonlyMap<string, string>>();

/**
 * What a control is called in words: its own name and, where another of its section has the same, which of them it is:
 * upper or lower, left or right, or its number in reading order.
 */
export function controlName(instrument: Instrument, control: Control): string {
  const which = whichOf(instrument).get(control.id);
  return which ? `${control.name} ${which}` : control.name;
}

/** A control in the panel's words: section and name. An id that there is not is given back. */
export function controlLabel(instrument: Instrument, id: string): string {
  const control = instrument.controls.find((c) => c.id === id);
  if (!control) return id;
  const section = instrument.sections.find((s) => s.id === control.section);
  return `${section?.name ?? ''} ${controlName(instrument, control)}`.trim();
}

function whichOf(instrument: Instrument): ReadonlyMap<string, string> {
  const known = sides.get(instrument);
  if (known) return known;
  const groups = new Map<string, Control[]>();
  for (const control of instrument.controls) {
    const key = `${control.section} ${control.name.toLowerCase()}`;
    groups.set(key, [...(groups.get(key) ?? []), control]);
  }
  const found = new Map<string, string>();
  for (const group of groups.values()) {
    if (group.length < 2) continue;
    const places = placesOf(group);
    group.forEach((control, i) => found.set(control.id, places[i]!));
  }
  sides.set(instrument, found);
  return found;
}

function placesOf(group: readonly Control[]): string[] {
  const [a, b] = group;
  if (group.length === 2 && a && b) {
    const [dx, dy] = [b.place.x - a.place.x, b.place.y - a.place.y];
    if (Math.abs(dy) >= Math.abs(dx))
      return dy >= 0 ? ['(upper)', '(lower)'] : ['(lower)', '(upper)'];
    return dx > 0 ? ['(left)', '(right)'] : ['(right)', '(left)'];
  }
  const inOrder = [...group].sort((p, q) => p.place.y - q.place.y || p.place.x - q.place.x);
  return group.map((control) => `(number ${inOrder.indexOf(control) + 1})`);
}
