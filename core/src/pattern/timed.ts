import type { PhraseNote } from './phrase';

/** A key held for a while. Times in seconds, note as MIDI number, velocity 1..127. */
export interface TimedNote {
  start: number;
  duration: number;
  note: number;
  velocity: number;
}

/** A phrase in quarter notes, laid out in seconds at a tempo (quarter notes a minute). */
export const phraseToNotes = (phrase: readonly PhraseNote[], tempo: number): TimedNote[] =>
  phrase.map((n) => ({
    start: (n.beat * 60) / tempo,
    duration: (n.length * 60) / tempo,
    note: n.note,
    velocity: n.velocity,
  }));

/** Seconds at which the last key of a list is let go; 0 for an empty list. */
export const notesEnd = (notes: readonly TimedNote[]): number =>
  notes.reduce((end, n) => Math.max(end, n.start + n.duration), 0);
