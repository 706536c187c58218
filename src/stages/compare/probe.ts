/** Light at a place in two pictures, as figures. */
import { castColor, castDirection } from '@/core/measures/cast/cast';
import type { ColorSpace } from '@/core/formulas/color/spaces';

export interface Probed {
  /** Stops by which the second is brighter, as both are shown. */
  stops: number;
  deltaE00: number;
  direction: string;
}

/**
 * Compares mean linear light of one place.
 *
 * @param a linear R, G, B of bare, after its gains
 * @param b of the filtered picture, after its gains
 */
export function compareLight(
  a: readonly number[],
  b: readonly number[],
  luminance: readonly number[],
  space: ColorSpace,
): Probed | null {
  if ([...a, ...b].some((value) => !(value > 0))) return null;
  const of = (light: readonly number[]) => light.reduce((sum, value, c) => sum + value * luminance[c], 0);
  const taken = a.map((value, c) => -Math.log2(b[c] / value));
  const color = castColor(taken, space);
  return {
    stops: Math.log2(of(b) / of(a)),
    deltaE00: color.deltaE00,
    direction: castDirection(color.a, color.b, color.deltaE00),
  };
}
