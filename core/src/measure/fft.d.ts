declare module 'fft.js' {
  /** Radix-4 FFT of a power-of-two size; complex arrays are interleaved. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    realTransform(out: number[], input: ArrayLike<number>): void;
    completeSpectrum(spectrum: number[]): void;
    inverseTransform(out: number[], input: number[]): void;
  }
}
