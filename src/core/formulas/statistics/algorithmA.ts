/** Robust mean and standard deviation: algorithm A of ISO 13528:2015, annex C.3.1 (Huber's proposal 2 of 1964 with c = 1.5). */
import { deviation as standardDeviation } from 'd3-array';
import { mean, median } from './averages';

export interface RobustMean {
  mean: number;
  /** Robust standard deviation; 0 where more than half of the values are one. */
  deviation: number;
  rounds: number;
}

/** Values farther than this many robust deviations are drawn in to that distance. */
const DRAWN_IN = 1.5;
/** Makes the deviation of what was drawn in that of a normal distribution. */
const CORRECTION = 1.134;
/** Median of distances from the median to standard deviation, as the standard writes it. */
const FROM_MEDIAN = 1.483;
const MOST_ROUNDS = 200;

/**
 * Robust mean and standard deviation, iterated until neither changes by a millionth of the deviation.
 *
 * @param values p results of one thing; fewer than three are taken as they are
 * @throws RangeError for none
 */
export function algorithmA(values: readonly number[]): RobustMean {
  if (values.length === 0) throw new RangeError('there is nothing to take a mean of.');
  let middle = median(values);
  let deviation = medianDeviation(values);
  if (values.length < 3) return { mean: mean(values), deviation: sampleDeviation(values), rounds: 0 };
  for (let round = 1; round <= MOST_ROUNDS; round++) {
    const reach = DRAWN_IN * deviation;
    const drawnIn = values.map((one) => Math.min(middle + reach, Math.max(middle - reach, one)));
    const [nextMiddle, nextDeviation] = [mean(drawnIn), CORRECTION * sampleDeviation(drawnIn)];
    const still = Math.abs(nextMiddle - middle) + Math.abs(nextDeviation - deviation) <= 1e-6 * deviation;
    [middle, deviation] = [nextMiddle, nextDeviation];
    if (still) return { mean: middle, deviation, rounds: round };
  }
  return { mean: middle, deviation, rounds: MOST_ROUNDS };
}

/** Median of distances from the median, scaled to a standard deviation (MADe, annex C.2.2): half of the values may be anything. */
export function medianDeviation(values: readonly number[]): number {
  const middle = median(values);
  return FROM_MEDIAN * median(values.map((one) => Math.abs(one - middle)));
}

/** Standard deviation of a sample (n − 1); 0 of one value. */
export const sampleDeviation = (values: readonly number[]): number => standardDeviation(values) ?? 0;
