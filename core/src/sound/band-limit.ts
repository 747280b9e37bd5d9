import { sinTurns } from '../theory/portable';

/**
 * Band-limited steps and ramps. A step that a waveform makes between two samples is replaced by the step response of a
 * windowed sinc: 24 zero crossings to each side, Kaiser window with beta 8, corner at 0.85 of the Nyquist frequency. At
 * 48 kHz all passes up to 18 kHz; at 22 kHz 30 dB are gone, at 24 kHz a hundred, because whatever bends the sound later would beat a
 * partial just under 24 kHz with its own image just above. What is stored is what the response has more than the ideal step or ramp, at 256 places between two samples, with linear
 * interpolation between those; the ideal part is subtracted exactly.
 * Source: E. Brandt, Hard Sync Without Aliasing, ICMC 2001 (here with a linear-phase kernel); window after J. F. Kaiser.
 */

/** Samples that a correction reaches to each side. An oscillator's output is late by as many. */
export const REACH = 24;
const POINTS = 256;
const CORNER = 0.85;
const BETA = 8;
const LENGTH = 2 * REACH * POINTS;
const TAPS = 2 * REACH;
const PI = 3.141592653589793;

function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 60; k++) {
    term *= (x / (2 * k)) * (x / (2 * k));
    sum += term;
  }
  return sum;
}

/** Kaiser window at t, -1..1. */
export const kaiser = (t: number, beta: number): number =>
  t * t >= 1 ? 0 : bessel0(beta * Math.sqrt(1 - t * t)) / bessel0(beta);

function kernelAt(x: number): number {
  const angle = PI * CORNER * x;
  const sinc = angle === 0 ? 1 : sinTurns((CORNER * x) / 2) / angle;
  return CORNER * sinc * kaiser(x / REACH, BETA);
}

/** Running integral of sampled values by Simpson's rule over half steps. */
function integrate(f: (x: number) => number): Float64Array {
  const out = new Float64Array(LENGTH + 1);
  const h = 1 / POINTS;
  for (let i = 0; i < LENGTH; i++) {
    const x = i * h - REACH;
    out[i + 1] = out[i]! + (h / 6) * (f(x) + 4 * f(x + h / 2) + f(x + h));
  }
  return out;
}

const step = integrate(kernelAt);
const whole = step[LENGTH]!;
for (let i = 0; i <= LENGTH; i++) step[i]! /= whole;

const ramp = new Float64Array(LENGTH + 1);
for (let i = 0; i < LENGTH; i++) ramp[i + 1] = ramp[i]! + (step[i]! + step[i + 1]!) / (2 * POINTS);
// The kernel is even, so the ramp must end at REACH; the rest is rounding of the trapezoids.
const rest = REACH / ramp[LENGTH]!;
for (let i = 0; i <= LENGTH; i++) ramp[i]! *= rest;

/** Row p holds the corrections of 48 samples for an event p / 256 samples before the 25th of them. */
const stepRows = new Float64Array((POINTS + 1) * TAPS);
const rampRows = new Float64Array((POINTS + 1) * TAPS);
for (let p = 0; p <= POINTS; p++) {
  for (let tap = 0; tap < TAPS; tap++) {
    const at = tap * POINTS + p;
    const behind = tap >= REACH;
    stepRows[p * TAPS + tap] = step[at]! - (behind ? 1 : 0);
    rampRows[p * TAPS + tap] = ramp[at]! - (behind ? tap - REACH + p / POINTS : 0);
  }
}

const MASK = 63;

/** A ring of samples that corrections reach into. */
export const newRing = (): Float64Array => new Float64Array(MASK + 1);

/** How long ago, and how much: numbers handed over by themselves would each be made for the collector. */
export const event = new Float64Array(2);

function addRow(rows: Float64Array, ring: Float64Array, now: number): void {
  const by = event[1]!;
  const at = event[0]! * POINTS;
  let row = Math.floor(at);
  if (row >= POINTS) row = POINTS - 1;
  const share = (at - row) * by;
  const rest = by - share;
  const a = row * TAPS;
  for (let tap = 0; tap < TAPS; tap++) {
    const index = (now + tap - REACH) & MASK;
    ring[index] = ring[index]! + rest * rows[a + tap]! + share * rows[a + TAPS + tap]!;
  }
}

/**
 * Adds to a ring of 64 samples what makes an ideal step band-limited.
 * @param ring ring buffer, indexed by sample number & 63
 * @param now number of the sample being computed; samples now-24..now+23 are corrected
 * @param ago samples since the step, 0..1
 * @param height of the step
 */
export function addStep(ring: Float64Array, now: number, ago: number, height: number): void {
  event[0] = ago;
  event[1] = height;
  addRow(stepRows, ring, now);
}

/** The same for what has been written to `event`: samples since the step, and its height. */
export const addEvent = (ring: Float64Array, now: number): void => addRow(stepRows, ring, now);

/** The same for a change of slope, given in height a sample. */
export function addCorner(ring: Float64Array, now: number, ago: number, slope: number): void {
  event[0] = ago;
  event[1] = slope;
  addRow(rampRows, ring, now);
}
