export { cubicAt } from './cubic';
export { PhasePlane } from './phase';
export { sincAt } from './sinc';
export { transform2d } from './transform';
export { turned, wayBetween } from './angles';
/** The middle of a list of numbers; of an even count the mean of the middle two, NaN of none. */
export function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort();
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}
export { seededNormals, seededUniforms } from './normals';
