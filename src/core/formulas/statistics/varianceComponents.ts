/**
 * One-way random effects: how much of a spread lies between groups, and how much within them. Estimates by the analysis of variance for groups
 * of any size; 95 % limits of what lies between by the modified large-sample method (Graybill & Wang 1980; Burdick & Graybill, Confidence
 * Intervals on Variance Components, 1992, 3.2; formulas quoted from memory, their coverage simulated in the test), of what lies within by the
 * chi-squared distribution. For unequal groups both use the mean squares as if the groups had their effective size.
 */
import quantile from '@stdlib/stats-base-dists-f-quantile';
import { mean, sum } from 'd3-array';

/** A standard deviation with its 95 % limits. */
export interface Component {
  value: number;
  low: number;
  high: number;
}

export interface Components {
  mean: number;
  between: Component;
  within: Component;
  groups: number;
  values: number;
}

const TAIL = 0.025;
/** Degrees of freedom that stand for no end of them. */
const ENDLESS = 1e9;

/** F that is exceeded with a probability. */
const exceeded = (p: number, n1: number, n2: number) => quantile(1 - p, n1, n2);

/**
 * Both components as standard deviations; one between groups that can't be told from nothing is 0.
 *
 * @param groups results by group, two groups with something in them at least, and more results than groups
 * @returns `null` for fewer
 */
export function varianceComponents(groups: readonly (readonly number[])[]): Components | null {
  const full = groups.filter((group) => group.length > 0);
  const counts = full.map((group) => group.length);
  const all = sum(counts);
  const [n1, n2] = [full.length - 1, all - full.length];
  if (n1 < 1 || n2 < 1) return null;
  const grand = mean(full.flat())!;
  const means = full.map((group) => mean(group)!);
  const s1 = sum(full, (_, i) => counts[i] * (means[i] - grand) ** 2) / n1;
  const s2 = sum(full, (group, i) => sum(group, (one) => (one - means[i]) ** 2)) / n2;
  const size = (all - sum(counts, (count) => count ** 2) / all) / n1;
  const between = Math.max(0, s1 - s2) / size;
  const limits = betweenLimits(s1, s2, n1, n2);
  const root = (value: number) => Math.sqrt(Math.max(0, value));
  return {
    mean: grand,
    between: { value: root(between), low: root(limits.low / size), high: root(limits.high / size) },
    within: {
      value: root(s2),
      low: root(s2 / exceeded(TAIL, n2, ENDLESS)),
      high: root(s2 / exceeded(1 - TAIL, n2, ENDLESS)),
    },
    groups: full.length,
    values: all,
  };
}

/** Limits of the difference of two mean squares. */
function betweenLimits(s1: number, s2: number, n1: number, n2: number): { low: number; high: number } {
  const [upper, lower] = [exceeded(TAIL, n1, n2), exceeded(1 - TAIL, n1, n2)];
  const g1 = 1 - 1 / exceeded(TAIL, n1, ENDLESS);
  const g2 = 1 - 1 / exceeded(TAIL, n2, ENDLESS);
  const h1 = 1 / exceeded(1 - TAIL, n1, ENDLESS) - 1;
  const h2 = 1 / exceeded(1 - TAIL, n2, ENDLESS) - 1;
  const g12 = ((upper - 1) ** 2 - (g1 * upper) ** 2 - h2 ** 2) / upper;
  const h12 = ((1 - lower) ** 2 - (h1 * lower) ** 2 - g2 ** 2) / lower;
  const low = Math.sqrt(Math.max(0, (g1 * s1) ** 2 + (h2 * s2) ** 2 + g12 * s1 * s2));
  const high = Math.sqrt(Math.max(0, (h1 * s1) ** 2 + (g2 * s2) ** 2 + h12 * s1 * s2));
  return { low: s1 - s2 - low, high: s1 - s2 + high };
}
