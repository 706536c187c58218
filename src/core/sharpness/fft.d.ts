declare module 'fft.js' {
  export default class FFT {
    constructor(size: number);
    createComplexArray(): ArrayLike<number>;
    realTransform(output: ArrayLike<number>, input: ArrayLike<number>): void;
  }
}
