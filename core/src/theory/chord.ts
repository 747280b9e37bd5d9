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
} as const satisfies Record<string, readonly number[]>;
export type ChordType = keyof typeof chordTypes;

/** Semitones of a chord whose lowest `inversion` notes stand an octave higher, lowest first. */
export const chordNotes = (type: ChordType, inversion = 0): number[] => {
  const notes = chordTypes[type];
  const turned = Math.max(0, Math.min(notes.length - 1, Math.round(inversion)));
  return notes.map((n, i) => (i < turned ? n + 12 : n)).sort((a, b) => a - b);
};
