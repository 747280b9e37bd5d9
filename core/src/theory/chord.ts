/** Chords by name: semitones above their root, lowest first. */
export const chordTypes = {
  octave: [0, 12],
  fifth: [0, 7],
  major: [0, 4, 7],
  minor: [0, 3, 7],
  diminished: [0, 3, 6],
  augmented: [0, 4, 8],
  sus2: [0, 2, 7],
  sus4: [0, 5, 7],
  major6: [0, 4, 7, 9],
  minor6: [0, 3, 7, 9],
  seventh: [0, 4, 7, 10],
  major7: [0, 4, 7, 11],
  minor7: [0, 3, 7, 10],
  diminished7: [0, 3, 6, 9],
  add9: [0, 4, 7, 14],
  'minor-add9': [0, 3, 7, 14],
  'six-nine': [0, 4, 7, 9, 14],
  'minor-six-nine': [0, 3, 7, 9, 14],
  ninth: [0, 4, 7, 10, 14],
  major9: [0, 4, 7, 11, 14],
  minor9: [0, 3, 7, 10, 14],
  'seventh-sus4': [0, 5, 7, 10],
  'half-diminished': [0, 3, 6, 10],
  eleventh: [0, 4, 7, 10, 14, 17],
  minor11: [0, 3, 7, 10, 14, 17],
} as const satisfies Record<string, readonly number[]>;
export type ChordType = keyof typeof chordTypes;

/** Semitones of a chord whose lowest note was put an octave up `inversion` times, lowest first. */
export const chordNotes = (type: ChordType, inversion = 0): number[] => {
  const notes = chordTypes[type];
  const times = Math.max(0, Math.round(inversion));
  const rounds = Math.floor(times / notes.length);
  const turned = times % notes.length;
  return notes.map((n, i) => n + 12 * (i < turned ? rounds + 1 : rounds)).sort((a, b) => a - b);
};
