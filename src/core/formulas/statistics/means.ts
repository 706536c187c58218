/** Means of several results of one thing. */

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
