/** Raising a filter's picture by what it takes, so that only cast, softness and shading are left to see. */
import type { Triple } from '../reading/patchStatistics';

/** Factors on linear R, G, B that make a filtered picture as bright as bare. */
export interface Levelling {
  gains: Triple;
  /** Stops that the picture is raised by; negative where a longer exposure has done more than the filter takes. */
  raised: number;
}

/**
 * @param stops luminous strength of the filter; 0 for bare
 * @param exposure log2 of t·ISO/N² of the picture and of bare
 * @param channels factors that cancel the cast (`cast.gains` of the readings), or `null` to leave it in
 */
export function levelling(
  stops: number,
  exposure: { take: number; bare: number },
  channels: { r: number; g: number; b: number } | null = null,
): Levelling {
  const raised = stops - (exposure.take - exposure.bare);
  const gain = 2 ** raised;
  const { r, g, b } = channels ?? { r: 1, g: 1, b: 1 };
  return { gains: [gain * r, gain * g, gain * b], raised };
}

/**
 * Channel factors that cancel a cast and leave luminance as it is: `gains` keep green, and a green filter's luminance would change.
 *
 * @param gains factors that cancel the cast (`cast.gains` of the readings)
 * @param luminance weights of linear R, G, B
 */
export function keepLuminance(
  gains: { r: number; g: number; b: number },
  luminance: Triple,
): { r: number; g: number; b: number } {
  // A gray through the filter is 1/gains; its luminance is what the strength was measured by.
  const filtered = luminance[0] / gains.r + luminance[1] / gains.g + luminance[2] / gains.b;
  return { r: gains.r * filtered, g: gains.g * filtered, b: gains.b * filtered };
}
