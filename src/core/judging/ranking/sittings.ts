/** Several sittings of one filter as one figure. */
import type { Reading } from '../../session/readings';
import { weightedMean } from '../../formulas/statistics/means';

export interface Sitting {
  session: string;
  reading: Reading;
}

export interface Combined extends Reading {
  /** 1 where the sittings scatter as their ± say (Birge 1932); above it the ± is widened by it. 0 for one sitting. */
  birgeRatio: number;
  /** Between the highest and the lowest sitting. */
  range: number;
  weights: { session: string; weight: number }[];
  /** Sittings that stand apart from the others by more than three standard deviations: a person is asked about them. */
  apart: { session: string; off: number }[];
}

/** How far, in standard deviations, a sitting may stand from the others before it is asked about. */
const APART = 3;

/** The mean weighted by 1/u², its ± widened by the Birge ratio where sittings disagree. Throws a RangeError for none. */
export function combineSittings(sittings: readonly Sitting[]): Combined {
  if (sittings.length === 0) throw new RangeError('there is nothing to combine.');
  // A ± of nothing would take all the weight: it is a rounded one.
  const u = sittings.map(({ reading }) => Math.max(reading.u95 / 2, 1e-6));
  const values = sittings.map(({ reading }) => reading.value);
  const { value, weights, birgeRatio } = weightedMean(values, u);
  const within = 1 / Math.sqrt(u.reduce((sum, one) => sum + 1 / one ** 2, 0));
  const apart = sittings.flatMap(({ session }, i) => {
    const others = values.filter((_, k) => k !== i);
    if (others.length === 0) return [];
    const rest = weightedMean(
      others,
      u.filter((_, k) => k !== i),
    );
    const restU = 1 / Math.sqrt(u.reduce((sum, one, k) => (k === i ? sum : sum + 1 / one ** 2), 0));
    const off = values[i] - rest.value;
    return Math.abs(off) > APART * Math.hypot(u[i], restU) ? [{ session, off }] : [];
  });
  return {
    value,
    u95: 2 * within * Math.max(1, birgeRatio),
    birgeRatio,
    range: Math.max(...values) - Math.min(...values),
    weights: sittings.map(({ session }, i) => ({ session, weight: weights[i] })),
    apart,
  };
}
