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
