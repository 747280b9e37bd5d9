/** Pitch and voltage arithmetic. Frequencies in Hz, voltages in V, intervals in semitones or cents. */

/** Frequency of A4 in Hz unless an instrument is tuned otherwise. */
export const A4_HZ = 440;
/** MIDI number of C4, the key at 0 V in a circuit. */
export const C4_MIDI = 60;
/** Frequency of C4 in Hz with A4 at 440 Hz, `440 * 2^(-9/12)`; written out so that every machine has the same digits. */
export const C4_HZ = 261.6255653005986;

/** Semitones from `reference` to `frequency`, both in Hz and above 0. `12 log2(f/f0)`. */
export const semitonesBetween = (frequency: number, reference: number): number =>
  12 * Math.log2(frequency / reference);

/** Cents from `reference` to `frequency`, both in Hz and above 0. */
export const centsBetween = (frequency: number, reference: number): number =>
  1200 * Math.log2(frequency / reference);

/** Frequency in Hz of a MIDI note number (fractions allowed). `a4` in Hz. */
export const midiToHz = (midi: number, a4 = A4_HZ): number => a4 * 2 ** ((midi - 69) / 12);

/** MIDI note number, with fraction, of a frequency in Hz above 0. */
export const hzToMidi = (hz: number, a4 = A4_HZ): number => 69 + 12 * Math.log2(hz / a4);

/** Volts of a MIDI note on a 1 V per octave line with 0 V at C4. */
export const midiToVolts = (midi: number): number => (midi - C4_MIDI) / 12;

/** Semitones from 8 foot for an organ footage in feet above 0: 16 is -12, 4 is +12. */
export const footageToSemitones = (feet: number): number => 12 * Math.log2(8 / feet);

/** Beats a second of one harmonic at `hz` against itself detuned by `cents`. */
export const beatRate = (hz: number, cents: number): number => hz * (2 ** (cents / 1200) - 1);

/** What a path of linear gain makes of an octave, in cents. */
export const octaveThroughGain = (gain: number): number => 1200 * gain;

/** A code of a voltage row, the nearest to a wanted interval, and its error in cents. */
export interface RowCode {
  code: number;
  errorCents: number;
}

/**
 * Nearest code of a voltage row to a wanted interval above its bottom.
 * @param semitones wanted interval, 0..12*range
 * @param range volts from the lowest to the highest code, above 0
 * @param steps highest code (N, so that there are N+1 codes), a whole number above 0
 */
export function nearestRowCode(semitones: number, range: number, steps: number): RowCode {
  const wanted = semitones / 12;
  const code = Math.min(steps, Math.max(0, Math.round((wanted * steps) / range)));
  return { code, errorCents: 1200 * ((code * range) / steps - wanted) };
}
