/** Spectra of square tiles. */
import FFT from 'fft.js';

const transforms = new Map<number, FFT>();

/** Two-dimensional transform of a complex tile, in place, row by row and column by column. */
export function transform2d(data: Float64Array, size: number): void {
  let fft = transforms.get(size);
  if (!fft) transforms.set(size, (fft = new FFT(size)));
  const line = new Float64Array(2 * size);
  const out = new Float64Array(2 * size);
  for (let y = 0; y < size; y++) {
    fft.transform(out, data.subarray(2 * y * size, 2 * (y + 1) * size));
    data.set(out, 2 * y * size);
  }
  for (let x = 0; x < size; x++) {
    for (let y = 0; y < size; y++) {
      line[2 * y] = data[2 * (y * size + x)];
      line[2 * y + 1] = data[2 * (y * size + x) + 1];
    }
    fft.transform(out, line);
    for (let y = 0; y < size; y++) {
      data[2 * (y * size + x)] = out[2 * y];
      data[2 * (y * size + x) + 1] = out[2 * y + 1];
    }
  }
}
