/** Covariances of the three channels, in stops². */

/** Symmetric 3 × 3, row-major. */
export type Covariance = Float64Array;

export function zeroCovariance(): Covariance {
  return new Float64Array(9);
}

/** Independent channels with these standard uncertainties. */
export function diagonal(u: readonly number[]): Covariance {
  const result = zeroCovariance();
  for (let c = 0; c < 3; c++) result[4 * c] = u[c] * u[c];
  return result;
}

/** One error that reaches all channels alike. */
export function commonMode(u: number): Covariance {
  return zeroCovariance().fill(u * u);
}

/** v·vᵀ: one error that reaches the channels in fixed proportion. */
export function outer(v: readonly number[]): Covariance {
  const result = zeroCovariance();
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) result[3 * i + j] = v[i] * v[j];
  return result;
}

/** target += factor · source. */
export function accumulate(target: Covariance, source: Covariance, factor = 1): Covariance {
  for (let i = 0; i < 9; i++) target[i] += factor * source[i];
  return target;
}

export function scaled(source: Covariance, factor: number): Covariance {
  return source.map((value) => value * factor);
}

/** Variance of g·x for x with this covariance (law of propagation, GUM equation 13). */
export function propagate(covariance: Covariance, gradient: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < 3; i++) for (let j = 0; j < 3; j++) sum += gradient[i] * gradient[j] * covariance[3 * i + j];
  return Math.max(0, sum);
}

/**
 * What a sample covariance has beyond an expected one, kept positive: a part common to all channels and a part of
 * each channel's own. With a handful of samples a finer structure would be noise.
 */
export function excess(sample: Covariance, expected: Covariance): Covariance {
  const difference = sample.map((value, i) => value - expected[i]);
  const common = Math.max(0, (difference[1] + difference[2] + difference[5]) / 3);
  const own = (difference[0] + difference[4] + difference[8]) / 3 - common;
  const result = commonMode(Math.sqrt(common));
  for (let c = 0; c < 3; c++) result[4 * c] += Math.max(0, own);
  return result;
}
