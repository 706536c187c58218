/** What a lossy file's rounding leaves uncertain in the mean of an even place. */
import { zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';

/** What one code more of luma, blue and red difference does to R, G, B (ITU-T T.871). */
const OF_LUMA = [1, 1, 1] as const;
const OF_BLUE = [0, -0.344, 1.772] as const;
const OF_RED = [1.402, -0.714, 0] as const;

/** Steps of the means that a lossy file keeps, in codes of 8 bits: the quantizers of the blocks' constant parts by eight. */
export interface MeanSteps {
  luma: number;
  blue: number;
  red: number;
}

/** Noise of single pixels, in codes, from which on rounding is dithered. */
const DITHER = 0.35;

/**
 * Covariance of the mean codes (of 8 bits) of R, G, B in an even place. A component's mean is whole codes twice over, of the block and of
 * the decoded pixel, less what its own noise dithers: u² = ((Δ² + 2)/12)/(1 + (s/0.35)²), our own trials; conservative there by up to 3.
 *
 * @param spread standard deviations of single pixels of luma, blue and red difference, codes of 8 bits
 */
export function compressionOfCodes({ luma, blue, red }: MeanSteps, spread: ArrayLike<number>): Covariance {
  const covariance = zeroCovariance();
  [
    [luma, OF_LUMA],
    [blue, OF_BLUE],
    [red, OF_RED],
  ].forEach(([step, direction], k) => {
    const variance = ((step as number) ** 2 + 2) / 12 / (1 + (spread[k] / DITHER) ** 2);
    const of = direction as readonly number[];
    for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) covariance[3 * a + b] += variance * of[a] * of[b];
  });
  return covariance;
}
