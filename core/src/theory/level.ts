/** Levels. Amplitudes are linear and not negative, decibels are `20 log10`. */

/** Decibels of a linear amplitude ratio; 0 gives -Infinity. */
export const toDecibels = (ratio: number): number => 20 * Math.log10(ratio);

/** Linear amplitude ratio of decibels. */
export const fromDecibels = (db: number): number => 10 ** (db / 20);

/** The dip, in dB against their sum, when two in-tune oscillators of levels a and b oppose each other. */
export const cancellationDip = (a: number, b: number): number =>
  toDecibels(Math.abs(a - b) / (a + b));

/** Relative amplitude of harmonic n (from 1) of a pulse of duty 0..1: `|sin(pi n d)| / n`. */
export const pulseHarmonic = (n: number, duty: number): number =>
  Math.abs(Math.sin(Math.PI * n * duty)) / n;

/** A pulse within this share of either end of its width is silent in practice. */
export const SILENT_DUTY = 0.01;

/**
 * Highest gain of an attenuator in front of a width input that stops the duty at `limit`.
 * @param base duty at 0 V, 0..1
 * @param perVolt duty added by one volt
 * @param volts the most the source gives
 */
export const widthAttenuation = (
  base: number,
  perVolt: number,
  volts: number,
  limit: number,
): number => (limit - base) / (perVolt * volts);

/**
 * Cutoff in Hz that modulation reaches, before the filter's own range clips it.
 * @param floor cutoff of the knob in Hz
 * @param octaves sum of all modulations in octaves (envelope, tracking, velocity, LFO)
 */
export const cutoffReached = (floor: number, octaves: number): number => floor * 2 ** octaves;
