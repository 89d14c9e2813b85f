declare module 'fft.js' {
  /** A fast Fourier transform of `size` values, a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    /** The first half of a real signal's spectrum, real and imaginary parts in turn. */
    realTransform(out: number[], data: ArrayLike<number>): void;
    /** Fills in the second half of a real signal's spectrum. */
    completeSpectrum(spectrum: number[]): void;
    inverseTransform(out: number[], spectrum: ArrayLike<number>): void;
  }
}
