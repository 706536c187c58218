/**
 * How uncertain the mean of a patch is, from the patch itself: the scatter of its cells.
 *
 * Cell means carry noise with whatever correlation the file has between neighbors (demosaicing, compression), which
 * single pixels would hide. Smooth light across the patch is taken out by a quadratic surface; texture of the surface
 * or the sensor is the same in every take of the view, cancels in the ratio, and so is taken out too.
 */
import type { PatchStatistics } from '../../reading/patchStatistics';
import { scaled, zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';
import { fitLinear } from '../../formulas/statistics/leastSquares';

const FEWEST_CELLS = 25;
const SURFACE_TERMS = 6;

/**
 * Covariance of the three channels' patch means, in stops², for each of several takes of the same patch.
 */
export function meanCovariances(patches: readonly PatchStatistics[]): Covariance[] {
  const grid = patches[0]?.cells;
  const alike = patches.every((patch) => patch.cells.columns === grid.columns && patch.cells.rows === grid.rows);
  if (!grid || !alike || grid.columns * grid.rows < FEWEST_CELLS) return patches.map(fromPixels);
  const residuals = patches.map((patch) => cellResiduals(patch));
  const texture = sharedTexture(residuals);
  const count = grid.columns * grid.rows;
  const freedom = count - SURFACE_TERMS;
  return residuals.map((channels) => {
    const covariance = zeroCovariance();
    for (let a = 0; a < 3; a++)
      for (let b = 0; b <= a; b++) {
        let sum = 0;
        for (let cell = 0; cell < count; cell++)
          sum += (channels[a][cell] - texture.mean[a][cell]) * (channels[b][cell] - texture.mean[b][cell]);
        // The shared texture holds a part of this take's own noise: the difference has variance σ² − 1/Σ(1/σ²).
        const own = sum / freedom + (a === b ? texture.variance[a] : 0);
        covariance[3 * a + b] = covariance[3 * b + a] = own / count;
      }
    return covariance;
  });
}

/** Small patches: single pixels, taken as independent. */
function fromPixels(patch: PatchStatistics): Covariance {
  const covariance = zeroCovariance();
  for (let c = 0; c < 3; c++) covariance[4 * c] = (patch.pixelSpread[c] / Math.LN2) ** 2 / patch.pixelCount;
  return covariance;
}

/** Cells relative to the patch mean in stops (first order), less a quadratic surface. */
function cellResiduals(patch: PatchStatistics): Float64Array[] {
  const { columns, rows, values } = patch.cells;
  const basis = quadraticBasis(columns, rows);
  return values.map((cells, channel) => {
    const mean = patch.mean[channel] || Number.MIN_VALUE;
    const relative = cells.map((cell) => (cell / mean - 1) / Math.LN2);
    const coefficients = fitLinear(basis, relative);
    if (!coefficients) return relative;
    return relative.map((value, i) => value - coefficients.reduce((sum, k, term) => sum + k * basis[term][i], 0));
  });
}

function quadraticBasis(columns: number, rows: number): number[][] {
  const basis: number[][] = Array.from({ length: SURFACE_TERMS }, () => []);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const x = (2 * column + 1) / columns - 1;
      const y = (2 * row + 1) / rows - 1;
      [1, x, y, x * x, x * y, y * y].forEach((value, term) => basis[term].push(value));
    }
  return basis;
}

/** The texture that all takes share: their mean weighted by 1/σ², and the variance of that mean. */
function sharedTexture(residuals: Float64Array[][]): { mean: Float64Array[]; variance: number[] } {
  const count = residuals[0][0].length;
  const none = { mean: [0, 1, 2].map(() => new Float64Array(count)), variance: [0, 0, 0] };
  if (residuals.length < 3) return none;
  const freedom = count - SURFACE_TERMS;
  const mean: Float64Array[] = [];
  const variance: number[] = [];
  for (let channel = 0; channel < 3; channel++) {
    const takes = residuals.map((channels) => channels[channel]);
    let noise = takes.map((cells) => Math.max(1e-18, meanSquare(cells, freedom)));
    let shared = new Float64Array(count);
    let sharedVariance = 0;
    for (let round = 0; round < 3; round++) {
      const total = noise.reduce((sum, one) => sum + 1 / one, 0);
      sharedVariance = 1 / total;
      const sums = new Float64Array(count);
      takes.forEach((cells, take) => cells.forEach((value, cell) => (sums[cell] += value / noise[take] / total)));
      shared = sums;
      noise = takes.map((cells) =>
        Math.max(
          1e-18,
          meanSquare(
            cells.map((value, cell) => value - shared[cell]),
            freedom,
          ) + sharedVariance,
        ),
      );
    }
    mean.push(shared);
    variance.push(sharedVariance);
  }
  return { mean, variance };
}

function meanSquare(cells: Float64Array, freedom: number): number {
  let sum = 0;
  for (const value of cells) sum += value * value;
  return sum / freedom;
}

/** Covariance of a mean of n equally weighted results. */
export function covarianceOfMean(covariances: readonly Covariance[]): Covariance {
  const sum = zeroCovariance();
  for (const one of covariances) for (let i = 0; i < 9; i++) sum[i] += one[i];
  return scaled(sum, 1 / covariances.length ** 2);
}
