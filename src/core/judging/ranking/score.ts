/** Scores of 0–100 from the bounds of the words: piecewise linear, without a jump where a word changes. */
import type { Band } from '../rating/bands';

/**
 * 100 for a size of 0, equal steps of score from bound to bound, 0 as far beyond the last bound as that one lies from the one before.
 * What is negative (a gain where a loss is scored) counts as 0.
 *
 * @param bands bounds rising, the last one without end
 */
export function scoreOf(size: number, bands: readonly Band[]): number {
  const bounds = bands.map((band) => band.upTo).filter(Number.isFinite);
  const last = bounds[bounds.length - 1];
  const knots = [0, ...bounds, last + (last - (bounds[bounds.length - 2] ?? 0))];
  const x = Math.max(0, size);
  if (x >= knots[knots.length - 1]) return 0;
  const i = knots.findIndex((knot) => x < knot);
  const part = (x - knots[i - 1]) / (knots[i] - knots[i - 1]);
  return 100 * (1 - (i - 1 + part) / (knots.length - 1));
}

/** The same for what is better the larger it is (a polarizer's extinction): 0 for nothing, 100 beyond the last bound by as much. */
export function risingScore(size: number, bands: readonly Band[]): number {
  return 100 - scoreOf(size, bands);
}
