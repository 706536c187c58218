/** Mean (by d3-array) and medians. d3-array leaves out what isn't a number; here nothing is left out quietly. */
import { mean as meanOfNumbers } from 'd3-array';

/** Arithmetic mean; NaN of none, and where one of them is NaN. */
export function mean(values: ArrayLike<number>): number {
  const list = Array.from(values);
  return list.some(Number.isNaN) ? NaN : (meanOfNumbers(list) ?? NaN);
}

/** The middle of a list of numbers; of an even count the mean of the middle two, NaN of none. NaN counts as the largest. */
export function median(values: Iterable<number>): number {
  const row = sorted(values);
  const middle = row.length >> 1;
  return row.length % 2 === 1 ? row[middle] : (row[middle - 1] + row[middle]) / 2;
}

/** The median; of an even count the larger of the middle two: so much is reached by half of them. 0 of none. */
export function upperMedian(values: Iterable<number>): number {
  const row = sorted(values);
  return row[row.length >> 1] ?? 0;
}

/** Ascending, NaN last. */
const sorted = (values: Iterable<number>): number[] => Array.from(Float64Array.from(values).sort());
