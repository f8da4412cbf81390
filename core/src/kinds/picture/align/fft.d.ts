declare module 'fft.js' {
  /**
   * Fast Fourier transform of a length that is a power of two; complex arrays hold real and imaginary parts in turn.
   */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    transform(out: number[], input: number[]): void;
    inverseTransform(out: number[], input: number[]): void;
  }
}
