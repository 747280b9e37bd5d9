import { controlLabel } from '../instrument/control-name';
import type { Control, Instrument } from '../instrument/schema';
import { isSwitched } from '../instrument/schema';
import { checkPatch } from './check';
import { jackLabel } from './cables';
import type { Patch } from './schema';

/**
 * What of a patch would not stay what it is if its panel were described anew: controls it has recorded that are gone, or
 * whose numbers and positions read otherwise, jacks in which its cables are, and whatever else would not fit.
 * @returns in words of the panel as it was; empty when the patch stays as it is, reading by reading
 */
export function outgrown(before: Instrument, after: Instrument, patch: Patch): string[] {
  const recorded = new Set([
    ...Object.keys(patch.settings),
    ...patch.variations.flatMap((v) => Object.keys(v.settings)),
  ]);
  const lost = [...recorded].flatMap((id) => {
    const [old, now] = [before, after].map((panel) => panel.controls.find((c) => c.id === id));
    if (!old || (now && reads(now) === reads(old))) return [];
    return [`${controlLabel(before, id)} ${now ? 'reads otherwise' : 'is gone'}`];
  });
  const jacks = new Set(after.jacks.map((j) => j.id));
  const plugged = new Set(patch.cables.flatMap((c) => [c.from, c.to]));
  for (const { id } of before.jacks)
    if (plugged.has(id) && !jacks.has(id)) lost.push(`${jackLabel(before, id)} is gone`);
  if (lost.length > 0) return lost;
  return checkPatch(patch, after).map((fault) => fault.message);
}

/** What decides how a setting of a control reads. */
function reads(control: Control): string {
  if (isSwitched(control)) return JSON.stringify(control.positions);
  const { kind, scale, display, sweep, bindings } = control;
  // What a display shows is the physical value itself.
  const shown = display ? bindings.map((b) => b.taper) : [];
  return JSON.stringify([kind, scale ?? sweep, display, shown]);
}
