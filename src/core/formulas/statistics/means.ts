/** Means of several results of one thing. */
import { coverageFactor } from './distributions';

export interface WeightedMean {
  value: number;
  weights: number[];
  /** Square root of χ²/(n − 1): 1 when the results scatter as their uncertainties say (Birge 1932). 0 for one result. */
  birgeRatio: number;
}

/**
 * Inverse-variance mean with weights that add up to one.
 *
 * @param values n results, n ≥ 1
 * @param u their standard uncertainties; results with u = 0 share all the weight
 */
export function weightedMean(values: readonly number[], u: readonly number[]): WeightedMean {
  const exact = u.some((one) => one === 0);
  const raw = u.map((one) => (exact ? (one === 0 ? 1 : 0) : 1 / (one * one)));
  const total = raw.reduce((sum, weight) => sum + weight, 0);
  const weights = raw.map((weight) => weight / total);
  const value = values.reduce((sum, one, i) => sum + weights[i] * one, 0);
  if (values.length < 2 || exact) return { value, weights, birgeRatio: 0 };
  const chiSquared = values.reduce((sum, one, i) => sum + ((one - value) / u[i]) ** 2, 0);
  return { value, weights, birgeRatio: Math.sqrt(chiSquared / (values.length - 1)) };
}

/** A ± of nothing would take all the weight: it is a rounded one. */
export const LEAST_U = 1e-6;

/**
 * The mean of results with their expanded uncertainties (k = 2), weighted by 1/u²; where they scatter by more than those say, its own is widened by
 * the Birge ratio and Student's t at n − 1.
 *
 * @param results n ≥ 1
 */
export function meanOfReadings(results: readonly { value: number; u95: number }[]): {
  value: number;
  u95: number;
  birgeRatio: number;
} {
  const u = results.map(({ u95 }) => Math.max(u95 / 2, LEAST_U));
  const { value, birgeRatio } = weightedMean(
    results.map((one) => one.value),
    u,
  );
  const within = 1 / Math.sqrt(u.reduce((sum, one) => sum + 1 / one ** 2, 0));
  const k = birgeRatio > 1 ? birgeRatio * coverageFactor(results.length - 1) : 2;
  return { value, u95: k * within, birgeRatio };
}
