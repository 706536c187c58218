/** A ratio map by its distance from the center: fit, profile, hot spot. */
import type { Reading } from '../../session/readings';
import { fitLinear } from '../../formulas/statistics/leastSquares';
import type { FieldStatistics } from './field';

const HOT_SPOT_RADIUS = 0.1;
const RING = 0.05;

/** To a ten-thousandth, as maps and profiles are kept. */
export function rounded(value: number): number {
  return Math.round(value * 1e4) / 1e4;
}

/** Place of a cell from the center, in half diagonals. */
export function placeOf(i: number, columns: number, rows: number, shape: FieldStatistics): [number, number] {
  const half = Math.hypot(shape.width, shape.height) / 2;
  const x = (((i % columns) + 0.5) / columns - 0.5) * shape.width;
  const y = ((Math.floor(i / columns) + 0.5) / rows - 0.5) * shape.height;
  return [x / half, y / half];
}

const radialTerms = (x: number, y: number): number[] => {
  const r2 = x * x + y * y;
  return [1, x, y, r2, r2 * r2, r2 * r2 * r2];
};

/** Even radial polynomial to r⁶ with a tilt, over cells farther than `clear` from the center. */
export function radialFit(map: Float64Array, columns: number, rows: number, shape: FieldStatistics, clear: number) {
  const basis: number[][] = [[], [], [], [], [], []];
  const values: number[] = [];
  for (let i = 0; i < map.length; i++) {
    const [x, y] = placeOf(i, columns, rows, shape);
    if (Math.hypot(x, y) < clear) continue;
    radialTerms(x, y).forEach((value, k) => basis[k].push(value));
    values.push(map[i]);
  }
  const coefficients = fitLinear(basis, values) ?? [0, 0, 0, 0, 0, 0];
  const at = (x: number, y: number) => radialTerms(x, y).reduce((sum, value, k) => sum + coefficients[k] * value, 0);
  const residual = Math.sqrt(
    values.reduce(
      (sum, value, i) => sum + (value - coefficients.reduce((part, k, term) => part + k * basis[term][i], 0)) ** 2,
      0,
    ) / Math.max(1, values.length),
  );
  return { at, residual };
}

export function radialProfile(
  map: Float64Array,
  columns: number,
  rows: number,
  shape: FieldStatistics,
): [number, number][] {
  const rings: number[][] = [];
  for (let i = 0; i < map.length; i++) {
    const ring = Math.floor(Math.hypot(...placeOf(i, columns, rows, shape)) / RING);
    (rings[ring] ??= []).push(map[i]);
  }
  return [...rings.keys()].flatMap((ring): [number, number][] => {
    const values = rings[ring]?.sort((a, b) => a - b) ?? [];
    if (values.length < 3) return [];
    return [[rounded((ring + 0.5) * RING), rounded(values[values.length >> 1])]];
  });
}

/**
 * The largest excess near the center over the fit from outside. The excess is smoothed by its own small radial fit, since the
 * largest of many noisy cells would always lie too high.
 */
export function hotSpot(
  map: Float64Array,
  columns: number,
  rows: number,
  shape: FieldStatistics,
  fit: ReturnType<typeof radialFit>,
  noise: number,
): Reading {
  const basis: number[][] = [[], [], [], [], [], []];
  const excess: number[] = [];
  const places: [number, number][] = [];
  for (let i = 0; i < map.length; i++) {
    const [x, y] = placeOf(i, columns, rows, shape);
    if (Math.hypot(x, y) > HOT_SPOT_RADIUS) continue;
    radialTerms(x, y).forEach((value, k) => basis[k].push(value));
    excess.push(map[i] - fit.at(x, y));
    places.push([x, y]);
  }
  const inner = excess.length >= 24 ? fitLinear(basis, excess) : null;
  const largest = inner
    ? Math.max(...places.map(([x, y]) => radialTerms(x, y).reduce((sum, value, k) => sum + inner[k] * value, 0)))
    : Math.max(0, ...excess);
  // At its middle a fit of six terms has about a sixth of the cells' weight.
  const u = noise * Math.sqrt(6 / Math.max(6, excess.length)) * 2;
  const u95 = 2 * Math.hypot(u, 0.002);
  return { value: largest > u95 ? largest : 0, u95 };
}
