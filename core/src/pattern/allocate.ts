/** Who gets the note: a pure function of the held keys, the rule and the number of voices. */

export const noteRules = ['low', 'high', 'last', 'first', 'low-and-high'] as const;
export type NoteRule = (typeof noteRules)[number];

/**
 * Notes of the voices while keys are held.
 * @param held MIDI numbers in the order of pressing, without repeats
 * @param rule low, high, last and first give every voice the same key; low-and-high gives every other voice the lowest
 *   and those between the highest, so that of three keys the middle one is silent and both are equally loud
 * @param voices number of voices, at least 1
 * @returns one note a voice; null for all when no key is held, and for a voice that rests
 */
export function allocate(
  held: readonly number[],
  rule: NoteRule,
  voices: number,
): (number | null)[] {
  return Array.from({ length: voices }, (_, voice) =>
    held.length === 0 || voice >= sounding(rule, voices)
      ? null
      : noteFor(held, held.length, rule, voice),
  );
}

/** How many of so many voices sound: of an odd number the last one rests where low and high share them equally. */
export const sounding = (rule: NoteRule, voices: number): number =>
  rule === 'low-and-high' && voices > 1 ? voices - (voices % 2) : voices;

/** Note of one voice, without making anything new. @param count how many of `held` are, at least 1 */
export function noteFor(
  held: ArrayLike<number>,
  count: number,
  rule: NoteRule,
  voice: number,
): number {
  if (rule === 'last') return held[count - 1]!;
  if (rule === 'first') return held[0]!;
  const lowest = rule === 'low' || (rule === 'low-and-high' && voice % 2 === 0);
  let note = held[0]!;
  for (let i = 1; i < count; i++) {
    if (lowest ? held[i]! < note : held[i]! > note) note = held[i]!;
  }
  return note;
}

export type VoiceRule = NoteRule | 'poly' | 'paraphonic' | 'rotation' | 'unison';

/**
 * The rule by which all voices play one key or two, whichever are held: a key that was covered sounds again when the one that
 * covered it is let go. One voice plays the last key, however several would share them.
 * @returns undefined where each key has a voice of its own
 */
export function commonRule(rule: VoiceRule, voices: number): NoteRule | undefined {
  if (rule === 'unison') return 'last';
  return noteRules.find((r) => r === rule) ?? (voices === 1 ? 'last' : undefined);
}

/** Held keys that no voice plays. */
export const silentKeys = (held: readonly number[], rule: NoteRule, voices: number): number[] => {
  const heard = new Set(allocate(held, rule, voices));
  return held.filter((note) => !heard.has(note));
};
