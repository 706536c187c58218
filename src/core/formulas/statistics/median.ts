export { cubicAt } from '../spectra/cubic';
export { PhasePlane } from '../spectra/phase';
export { sincAt } from '../spectra/sinc';
export { transform2d } from '../spectra/transform';
export { turned, wayBetween } from '../geometry/angles';
/** The middle of a list of numbers; of an even count the mean of the middle two, NaN of none. */
export function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort();
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
export { seededNormals, seededUniforms } from './seededNormals';
