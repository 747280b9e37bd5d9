/** Note names. C4 is MIDI 60; sharps are `#`, flats are `b`. */

const LETTERS: Record<string, number> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };
const NAMES = ['C', 'C#', 'D', 'D#', 'E', 'F', 'F#', 'G', 'G#', 'A', 'A#', 'B'];

/** MIDI number (-12..143) of a name such as `C4`, `a#3`, `Bb-1`, or undefined when it is none. */
export function noteToMidi(text: string): number | undefined {
  const match = /^([A-Ga-g])([#b♯♭]?)(-?\d{1,2})$/.exec(text.trim());
  if (!match) return undefined;
  const letter = LETTERS[match[1]!.toUpperCase()]!;
  const accidental = match[2] === '#' || match[2] === '♯' ? 1 : match[2] ? -1 : 0;
  const midi = 12 * (Number(match[3]) + 1) + letter + accidental;
  return midi >= -12 && midi <= 143 ? midi : undefined;
}

/** Name of the nearest note to a MIDI number, sharps only: 61 is `C#4`. */
export function midiToNote(midi: number): string {
  const whole = Math.round(midi);
  return `${NAMES[((whole % 12) + 12) % 12]}${Math.floor(whole / 12) - 1}`;
}

const FLATS = ['C', 'D♭', 'D', 'E♭', 'E', 'F', 'G♭', 'G', 'A♭', 'A', 'B♭', 'B'];

/** Keys, by the pitch class of their root, that are written with flats. */
const FLAT_MAJOR = new Set([1, 3, 5, 8, 10]);
const FLAT_MINOR = new Set([0, 2, 3, 5, 7, 10]);

/** Whether a key or chord is written with flats, by the usual signatures: A♭ major, but G# minor. */
export const isFlat = (root: number, minor: boolean): boolean =>
  (minor ? FLAT_MINOR : FLAT_MAJOR).has(((root % 12) + 12) % 12);

/** Name of a pitch class 0..11, with a flat or a sharp. */
export const pitchClassName = (pitchClass: number, flat: boolean): string =>
  (flat ? FLATS : NAMES)[((Math.round(pitchClass) % 12) + 12) % 12]!;
