import type { Problem } from '../../document/problem';
import type { Instrument } from '../../instrument/schema';
import { checkPatch } from '../check';
import type { Patch } from '../schema';

/** What of a patch can be left out by itself, the smallest first. */
const PARTS = [
  /^\/patterns\/\d+\/tracks\/\d+\/steps\/\d+\/ownValues\/[^/]+/,
  /^\/patterns\/\d+\/tracks\/\d+\/rows\/[^/]+/,
  /^\/patterns\/\d+\/tracks\/\d+\/on/,
  /^\/patterns\/\d+\/sequencer/,
  /^\/variations\/\d+\/(?:settings|pulled|plugged|rows)\/[^/]+/,
  /^\/(?:settings|notes|ends)\/[^/]+/,
  /^\/(?:cables|matrix|checkpoints)\/\d+/,
  /^\/(?:revision|rack|outlet|feed)/,
];

/**
 * A patch without what does not fit its panel.
 * @returns what is left, and each fault that made something go; `open` when nothing could be left out to mend one
 */
export function withoutFaults(
  patch: Patch,
  panel: Instrument,
): { patch: Patch; dropped: Problem[]; open: Problem[] } {
  const dropped: Problem[] = [];
  let left = patch;
  for (;;) {
    const faults = checkPatch(left, panel);
    const fault = faults.find(({ pointer }) => PARTS.some((part) => part.test(pointer)));
    if (!fault) return { patch: left, dropped, open: faults };
    const part = PARTS.map((p) => p.exec(fault.pointer)?.[0]).find((p) => p !== undefined)!;
    dropped.push(fault);
    left = without(left, part.slice(1).split('/')) as Patch;
  }
}

/** A copy without the entry of a record or a list at a path. */
function without(node: unknown, [key = '', ...rest]: string[]): unknown {
  if (Array.isArray(node)) {
    const at = Number(key);
    return rest.length === 0
      ? node.filter((_, i) => i !== at)
      : node.map((one: unknown, i) => (i === at ? without(one, rest) : one));
  }
  const { [key]: inner, ...others } = node as Record<string, unknown>;
  return rest.length === 0 ? others : { ...(node as object), [key]: without(inner, rest) };
}
