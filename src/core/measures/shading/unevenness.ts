/** How uneven a ratio map is: its largest cell less its smallest, freed of what noise alone would make of it. */
import { seededNormals } from '../../formulas/statistics/seededNormals';
import type { Reading } from '../../session/readings';
import { fitLinear } from '../../formulas/statistics/leastSquares';
import { COARSE_COLUMNS, FINE } from './field';

export interface CoarseMap {
  columns: number;
  rows: number;
  /** Stops, row by row. */
  values: Float64Array;
}

/** What cells of whole pixels leave open, stops. */
const METHOD_U = 2.5e-4;
/**
 * The noise itself is known to a tenth, and the smooth copy flattens a sharp extreme by about twice as much: this share of what is taken off
 * for noise is in the standard uncertainty. Seen over seeded sessions, where less held too few of the truths.
 */
const CORRECTION_SHARE = 0.25;
/** Maps drawn with their noise once more, to learn what it adds to a range. */
const DRAWS = 64;

/**
 * Noise of each coarse cell's mean, from second differences of the fine cells in and around it: smooth shading leaves nothing in
 * them. Var(a − 2b + c) is six times the noise's.
 */
export function cellNoises(map: Float64Array, columns: number, rows: number): Float64Array {
  const [w, h] = [COARSE_COLUMNS, rows / FINE];
  const squares = new Float64Array(w * h);
  const own = (x: number, y: number) => {
    let sum = 0;
    for (let j = 0; j < FINE; j++)
      for (let i = 0; i < FINE - 2; i++) {
        const at = (y * FINE + j) * columns + x * FINE + i;
        sum += (map[at] - 2 * map[at + 1] + map[at + 2]) ** 2;
      }
    return sum / (FINE * (FINE - 2)) / 6;
  };
  const cells = Float64Array.from(squares, (_, i) => own(i % w, Math.floor(i / w)));
  return squares.map((_, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    let [sum, count] = [0, 0];
    for (let dy = -2; dy <= 2; dy++)
      for (let dx = -2; dx <= 2; dx++)
        if (x + dx >= 0 && x + dx < w && y + dy >= 0 && y + dy < h) {
          sum += cells[(y + dy) * w + x + dx];
          count++;
        }
    return Math.sqrt(sum / count) / FINE;
  });
}

function range(values: ArrayLike<number>): number {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < values.length; i++) {
    low = Math.min(low, values[i]);
    high = Math.max(high, values[i]);
  }
  return high - low;
}

/** All products of x and y up to the fourth degree: shading, a tilt, a crossed pattern. */
function smoothTerms(x: number, y: number): number[] {
  const terms: number[] = [];
  for (let i = 0; i <= 4; i++) for (let j = 0; i + j <= 4; j++) terms.push(x ** i * y ** j);
  return terms;
}

/**
 * Largest less smallest cell, and the axis along which a cos 2φ pattern is brightest. The range of noisy cells is larger than that of
 * the light: what noise adds is learned from a smooth copy of the map with noise drawn anew, and taken off.
 *
 * @param noises standard deviation of each cell, stops
 * @param placeOf cell → x, y from the center
 */
export function unevenness(
  { values }: CoarseMap,
  noises: Float64Array,
  placeOf: (cell: number) => readonly [number, number],
): Reading & { axisDegrees: number } {
  const places = Array.from(values, (_, i) => placeOf(i));
  const transposed = (terms: (x: number, y: number) => number[]) => {
    const rows = places.map(([x, y]) => terms(x, y));
    return rows[0].map((_, k) => rows.map((row) => row[k]));
  };
  const basis = transposed(smoothTerms);
  const coefficients = fitLinear(basis, values);
  const smooth = coefficients
    ? values.map((_, i) => coefficients.reduce((sum, value, k) => sum + value * basis[k][i], 0))
    : values;
  const normal = seededNormals(1);
  const ranges = Array.from({ length: DRAWS }, () => range(smooth.map((value, i) => value + noises[i] * normal())));
  const mean = ranges.reduce((sum, one) => sum + one, 0) / DRAWS;
  const spread = Math.sqrt(ranges.reduce((sum, one) => sum + (one - mean) ** 2, 0) / (DRAWS - 1));
  const added = mean - range(smooth);
  const pattern = fitLinear(
    transposed((x, y) => [1, x * x + y * y, x * x - y * y, 2 * x * y]),
    values,
  ) ?? [0, 0, 0, 0];
  const axis = ((Math.atan2(pattern[3], pattern[2]) * 90) / Math.PI + 180) % 180;
  return {
    value: Math.max(0, range(values) - added),
    u95: 2 * Math.hypot(spread, CORRECTION_SHARE * added, METHOD_U),
    axisDegrees: Math.round(axis * 10) / 10,
  };
}
