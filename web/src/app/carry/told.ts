import type { Carried } from '@hurrel/core';
import type { CarriedPatch } from './carry.service';

/** The same thing that becomes of several patches. */
export interface Told extends Carried {
  /** Names of the patches. */
  patches: string[];
}

/** What becomes of all of them, each thing once: what is asked first, what is lost next. */
export function toldOf(patches: readonly CarriedPatch[]): Told[] {
  const found = new Map<string, Told>();
  for (const { name, items } of patches) {
    for (const item of items) {
      const key = `${item.key}|${item.subject}|${item.how === 'asked' ? '' : item.after}`;
      const known = found.get(key);
      if (known) known.patches.push(name);
      else found.set(key, { ...item, patches: [name] });
    }
  }
  const order: Carried['how'][] = ['asked', 'lost', 'rescaled', 'renamed', 'moved'];
  return [...found.values()].sort((a, b) => order.indexOf(a.how) - order.indexOf(b.how));
}
