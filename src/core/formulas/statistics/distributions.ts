/** The few distribution functions that budgets need, from a library; its figures are checked against published tables in the test. */
import cdf from '@stdlib/stats-base-dists-normal-cdf';
import quantile from '@stdlib/stats-base-dists-normal-quantile';
import studentQuantile from '@stdlib/stats-base-dists-t-quantile';

/** Quantile of the standard normal distribution; ∓∞ at and beyond p = 0 and 1. */
export function normalQuantile(p: number): number {
  if (p <= 0) return -Infinity;
  return p >= 1 ? Infinity : quantile(p, 0, 1);
}

/** Cumulative standard normal distribution. */
export function normalCdf(x: number): number {
  return cdf(x, 0, 1);
}

/** Coverage probability of ±2 standard deviations of a normal distribution. */
const TWO_SIGMA = 0.9544997361036416;

/**
 * Coverage factor for the coverage that k = 2 has under a normal distribution (95.45 %), at a number of degrees of
 * freedom: the Student quantile of JCGM 100:2008, table G.2, column 95.45 % (e.g. 10 → 2.28, 5 → 2.65, 20 → 2.13).
 */
export function coverageFactor(degreesOfFreedom: number): number {
  return studentTwoSided(1 - TWO_SIGMA, degreesOfFreedom);
}

/** Beyond this many degrees of freedom Student's distribution is the normal one. */
const MANY = 1e6;

/** |t| that is exceeded with probability `p` (two-sided), at ν degrees of freedom; fewer than 1 count as 1. */
export function studentTwoSided(p: number, degreesOfFreedom: number): number {
  if (!(degreesOfFreedom <= MANY)) return normalQuantile(1 - p / 2);
  return studentQuantile(1 - p / 2, Math.max(1, degreesOfFreedom));
}
