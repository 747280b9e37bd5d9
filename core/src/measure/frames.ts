import FFT from 'fft.js';

const transforms = new Map<number, FFT>();

/** A transform of a size (a power of two), made once. */
export function transformOf(size: number): FFT {
  const known = transforms.get(size);
  if (known) return known;
  const made = new FFT(size);
  transforms.set(size, made);
  return made;
}

/** Hann window, by size. */
const windows = new Map<number, Float64Array>();
export function hann(size: number): Float64Array {
  const known = windows.get(size);
  if (known) return known;
  const made = Float64Array.from({ length: size }, (_, i) => Math.sin((Math.PI * i) / size) ** 2);
  windows.set(size, made);
  return made;
}

/**
 * Power spectra of a sound, frame by frame under a Hann window: size/2 + 1 values a frame, a sine of peak 1 at the middle
 * of a bin reads 1.
 */
export function powerFrames(samples: ArrayLike<number>, size: number, hop: number): Float64Array[] {
  const fft = transformOf(size);
  const window = hann(size);
  const input = new Array<number>(size).fill(0);
  const out = fft.createComplexArray();
  const scale = (4 / size) ** 2;
  const frames: Float64Array[] = [];
  for (let from = 0; from + size <= Math.max(size, samples.length); from += hop) {
    for (let i = 0; i < size; i++) input[i] = window[i]! * (samples[from + i] ?? 0);
    fft.realTransform(out, input);
    const power = new Float64Array(size / 2 + 1);
    for (let i = 0; i <= size / 2; i++)
      power[i] = scale * (out[2 * i]! ** 2 + out[2 * i + 1]! ** 2);
    frames.push(power);
  }
  return frames;
}
