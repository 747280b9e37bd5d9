/** Who gets the note: a pure function of the held keys, the rule and the number of voices. */

export const noteRules = ['low', 'high', 'last', 'first', 'low-and-high'] as const;
export type NoteRule = (typeof noteRules)[number];

/**
 * Notes of the voices while keys are held.
 * @param held MIDI numbers in the order of pressing, without repeats
 * @param rule low, high, last and first give every voice the same key; low-and-high gives the first voice the lowest
 *   and the others the highest, so that of three keys the middle one is silent
 * @param voices number of voices, at least 1
 * @returns one note a voice, null for all when no key is held
 */
export function allocate(
  held: readonly number[],
  rule: NoteRule,
  voices: number,
): (number | null)[] {
  if (held.length === 0) return Array.from({ length: voices }, () => null);
  const low = Math.min(...held);
  const high = Math.max(...held);
  const single = { low, high, last: held.at(-1)!, first: held[0]! };
  return Array.from({ length: voices }, (_, voice) =>
    rule === 'low-and-high' ? (voice === 0 ? low : high) : single[rule],
  );
}

/** Held keys that no voice plays. */
export const silentKeys = (held: readonly number[], rule: NoteRule, voices: number): number[] => {
  const heard = new Set(allocate(held, rule, voices));
  return held.filter((note) => !heard.has(note));
};
