/** What a lossy file's rounding leaves uncertain in the mean of an even place. */
import { propagate, zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';

/** What one code more of luma, blue and red difference does to R, G, B (ITU-T T.871). */
const OF_LUMA = [1, 1, 1] as const;
const OF_BLUE = [0, -0.344, 1.772] as const;
const OF_RED = [1.402, -0.714, 0] as const;

/** Steps of the means that a lossy file keeps, in codes of 8 bits: the quantizers of the blocks' constant parts by eight. */
export interface MeanSteps {
  luma: number;
  blue: number;
  red: number;
  /** What a stored code is of one of 8 bits over the full range; 1 when left out. */
  whole?: number;
  /** Decoded as stills are: what color differences add to R, G, B is whole codes by itself (ITU-T T.871 by tables). */
  byTables?: boolean;
}

/** Noise of single pixels, in codes, from which on rounding is dithered. */
const DITHER = 0.35;

/**
 * Covariance of the mean codes (of 8 bits) of R, G, B in an even place. A component's mean is whole codes twice over, of the block and of
 * the decoded pixel, less what its own noise dithers: u² = ((Δ² + 2w²)/12)/(1 + (s/0.35)²), w a stored code. What stills' color differences add to a channel is
 * rounded once more, and no noise of luma dithers that. Our own trials: errors of libjpeg's files are 0.6 to 1.05 of it (`media/jpegTables.test.ts`).
 * A step of 0 is a component that isn't stored.
 *
 * @param spread standard deviations of single pixels of luma, blue and red difference, codes of 8 bits
 */
export function compressionOfCodes(
  { luma, blue, red, whole = 1, byTables = false }: MeanSteps,
  spread: ArrayLike<number>,
): Covariance {
  const covariance = zeroCovariance();
  [
    [luma, OF_LUMA],
    [blue, OF_BLUE],
    [red, OF_RED],
  ].forEach(([step, direction], k) => {
    if (step === 0) return;
    const variance = ((step as number) ** 2 + 2 * whole ** 2) / 12 / (1 + (spread[k] / DITHER) ** 2);
    const of = direction as readonly number[];
    for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) covariance[3 * a + b] += variance * of[a] * of[b];
  });
  if (byTables) {
    const [ofBlue, ofRed] = [blue, red].map((step, k) =>
      step === 0 ? 0 : 1 / 12 / (1 + (spread[k + 1] / DITHER) ** 2),
    );
    covariance[0] += ofRed;
    covariance[4] += Math.max(ofBlue, ofRed);
    covariance[8] += ofBlue;
  }
  return covariance;
}

/** What the key frames of codecs keep of means whose quantizers aren't told, in codes of 8 bits: a usual step at camera rates. */
const CLIP_STEPS: MeanSteps = { luma: 1, blue: 1.5, red: 1.5 };

/** What a file keeps of means; `null` where it keeps exact codes. */
export function stepsOf({
  compression,
  clip,
}: {
  compression?: MeanSteps;
  clip?: { bits: number; steps?: MeanSteps };
}): MeanSteps | null {
  if (compression) return { ...compression, byTables: true };
  if (!clip) return null;
  // Encoders of more bits quantize as coarsely; what is finer are the codes that are stored.
  return clip.steps ?? { ...CLIP_STEPS, whole: 2 ** (8 - clip.bits) };
}

/** Stops of light by a table for one code of 8 bits more. */
export function stopsPerCode(table: Float64Array, code: number, bitDepth: number): number {
  const top = 2 ** bitDepth - 1;
  const one = Math.max(1, top / 255);
  const at = code * top;
  const [low, high] = [Math.max(1, Math.round(at - one)), Math.min(top, Math.round(at + one))];
  const [dark, bright] = [Math.max(table[low], 1e-9), Math.max(table[high], 1e-9)];
  return high > low ? (Math.log2(bright / dark) * one) / (high - low) : 0;
}

/** Mean compression of several pictures, by luminance or channel: it repeats with the level, so repeats don't average it out. */
export function meanCompression(statistics: readonly { compression?: Covariance }[]): Covariance {
  const sum = zeroCovariance();
  for (const { compression } of statistics)
    if (compression) for (let i = 0; i < 9; i++) sum[i] += compression[i] / statistics.length;
  return sum;
}

/** Standard uncertainty that compression leaves in a luminous figure of one square, stops. */
export function luminousCompression(compression: Covariance | undefined, luminance: readonly number[]): number {
  return compression ? Math.sqrt(propagate(compression, luminance)) : 0;
}
