/**
 * Band-limited steps and ramps. A step that a waveform makes between two samples is replaced by the step response of a
 * windowed sinc: 16 zero crossings to each side, Kaiser window with beta 9, corner at 0.92 of the Nyquist frequency. What
 * is stored is the smooth response; the ideal step or ramp is subtracted outside the table, where linear interpolation
 * between 256 points a sample does no harm.
 * Source: E. Brandt, Hard Sync Without Aliasing, ICMC 2001 (here with a linear-phase kernel); window after J. F. Kaiser.
 */

/** Samples that a correction reaches to each side. An oscillator's output is late by as many. */
export const REACH = 16;
const POINTS = 256;
const CORNER = 0.92;
const BETA = 9;
const LENGTH = 2 * REACH * POINTS;

function bessel0(x: number): number {
  let sum = 1;
  let term = 1;
  for (let k = 1; k < 60; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

function kernelAt(x: number): number {
  const t = x / REACH;
  if (Math.abs(t) >= 1) return 0;
  const angle = Math.PI * CORNER * x;
  const sinc = angle === 0 ? 1 : Math.sin(angle) / angle;
  return (CORNER * sinc * bessel0(BETA * Math.sqrt(1 - t * t))) / bessel0(BETA);
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
for (let i = 0; i <= LENGTH; i++) ramp[i]! *= REACH / ramp[LENGTH]!;

const MASK = 63;

/**
 * Adds to a ring of 64 samples what makes an ideal step band-limited.
 * @param ring ring buffer, indexed by sample number & 63
 * @param now number of the sample being computed; samples now-16..now+15 are corrected
 * @param ago samples since the step, 0..1
 * @param height of the step
 */
export function addStep(ring: Float64Array, now: number, ago: number, height: number): void {
  const at = ago * POINTS;
  const whole = Math.floor(at);
  const share = at - whole;
  let index = whole;
  for (let k = -REACH; k < REACH; k++, index += POINTS) {
    const a = step[index]!;
    const b = index < LENGTH ? step[index + 1]! : 1;
    const ideal = k >= 0 ? 1 : 0;
    ring[(now + k) & MASK]! += height * (a + share * (b - a) - ideal);
  }
}

/** The same for a change of slope, given in height a sample. */
export function addCorner(ring: Float64Array, now: number, ago: number, slope: number): void {
  const at = ago * POINTS;
  const whole = Math.floor(at);
  const share = at - whole;
  let index = whole;
  for (let k = -REACH; k < REACH; k++, index += POINTS) {
    const a = ramp[index]!;
    const b = index < LENGTH ? ramp[index + 1]! : REACH;
    const ideal = k >= 0 ? k + ago : 0;
    ring[(now + k) & MASK]! += slope * (a + share * (b - a) - ideal);
  }
}
