import { A4_HZ, hzToMidi } from './pitch';

/** What a tuner shows. */
export interface TunerReading {
  /** MIDI number of the nearest note. */
  note: number;
  /** Cents from it, -50..50. */
  cents: number;
  /** Semitones from the reference, in hundredths exact; absent without one. */
  semitones?: number;
}

/**
 * Reads a frequency as a tuner does.
 * @param hz above 0
 * @param reference MIDI number of the key held, or of any other pitch; fractions count
 * @param a4 Hz that A4 is tuned to
 */
export function readTuner(hz: number, reference?: number, a4 = A4_HZ): TunerReading {
  const exact = hzToMidi(hz, a4);
  const note = Math.round(exact);
  return {
    note,
    cents: 100 * (exact - note),
    ...(reference === undefined ? {} : { semitones: exact - reference }),
  };
}
