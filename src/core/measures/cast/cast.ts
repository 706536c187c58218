/**
 * Color cast of a filter: the color R_c/R_Y under the color space's white, scaled to L* = 50 (formats.md).
 */
import { apply, luminanceRow, type ColorSpace, type Vector3 } from '../../formulas/color/spaces';
import { colorTemperature } from '../../formulas/color/temperature';
import { deltaE00, hueDegrees, labFromXyz, luminanceOfLightness } from '../../formulas/color/lab';
import { combine, expand, reading, type Contribution } from '../../formulas/statistics/budget';
import { propagate } from '../../formulas/statistics/covariance';
import type { CastDirection, CastReadings, Fault } from '../../session/readings';
import { castWithheld } from '../../words/strength';
import type { CombinedStrength } from '../strength/combineStrengths';

const LIGHTNESS = 50;

/** Below this ΔE00 a cast has no direction that an eye could name (core/rating holds the same bound for its word). */
export const NEUTRAL_BELOW = 1;

/**
 * The bounds of the direction words, by hue angle of (a*, b*): each reaches from its angle to the next. Faint casts of
 * the sRGB primaries and their pairs lie at 20° (red), 110° (yellow), 144° (green), 199° (cyan), 291° (blue) and 325°
 * (magenta); warmer and cooler light moves along 88° and 268°. The bounds
 * lie between, with the axes kept as people name them.
 */
const DIRECTIONS: readonly (readonly [number, CastDirection])[] = [
  [48, 'warm'],
  [125, 'green'],
  [190, 'cyan'],
  [220, 'cool'],
  [295, 'violet'],
  [315, 'magenta'],
  [350, 'red'],
];

/** The cast in words, from its a*, b*. Warm is yellow to orange, cool is blue. */
export function castDirection(a: number, b: number, difference: number): CastDirection {
  if (difference < NEUTRAL_BELOW) return 'neutral';
  const hue = hueDegrees(a, b);
  if (hue < DIRECTIONS[0][0]) return 'red';
  return DIRECTIONS.reduce((word, [from, name]) => (hue >= from ? name : word), 'red' as CastDirection);
}

interface CastColor {
  a: number;
  b: number;
  deltaE00: number;
  miredShift: number | null;
}

/** Color of a strength per channel in stops: a*, b*, ΔE00 from gray and mired shift. */
export function castColor(channels: readonly number[], space: ColorSpace): CastColor {
  const weights = luminanceRow(space);
  const ratios = channels.map((stops) => 2 ** -stops);
  const luminance = ratios.reduce((sum, ratio, c) => sum + weights[c] * ratio, 0);
  const xyz = apply(space.toXyz, ratios.map((ratio) => ratio / luminance) as unknown as Vector3);
  const level = luminanceOfLightness(LIGHTNESS);
  const [, a, b] = labFromXyz(xyz.map((value) => value * level) as unknown as Vector3, space.white);
  const here = colorTemperature(xyz);
  const white = colorTemperature(space.white);
  return {
    a,
    b,
    deltaE00: deltaE00([LIGHTNESS, a, b], [LIGHTNESS, 0, 0]),
    miredShift: here && white ? 1e6 / here.kelvin - 1e6 / white.kelvin : null,
  };
}

/** A cast less certain than this says nothing: as wide as the step from unseen to visible, ΔE00. Our own judgement. */
const WIDEST_U95 = 2.3;

/** The cast of a filter's strength, or why it is withheld. */
export function estimateCast(
  { channels, contributions, places }: CombinedStrength,
  space: ColorSpace,
): { cast?: CastReadings; faults: Fault[] } {
  const cast = measureCast(channels, contributions, space);
  if (cast.deltaE00.u95 <= WIDEST_U95) return { cast, faults: [] };
  const takes = places.flatMap((place) => place.strength.takes);
  return { faults: [castWithheld(takes, cast.deltaE00.u95, cast.budget?.[0]?.source)] };
}

/** The cast readings of a strength per channel with its contributions of uncertainty. */
export function measureCast(
  channels: readonly number[],
  contributions: readonly Contribution[],
  space: ColorSpace,
): CastReadings {
  const color = castColor(channels, space);
  const gradients = gradientsOf(channels, space);
  const u = (gradient: readonly number[]) => expand(contributions, gradient);
  const difference = colorDifferenceUncertainty(contributions, gradients, color);
  const ratios = channels.map((stops) => 2 ** -stops);
  return {
    a: reading(color.a, u(gradients.a)),
    b: reading(color.b, u(gradients.b)),
    deltaE00: reading(color.deltaE00, difference),
    ...(color.miredShift === null ? {} : { miredShift: reading(color.miredShift, u(gradients.miredShift)) }),
    direction: castDirection(color.a, color.b, color.deltaE00),
    gains: { r: ratios[1] / ratios[0], g: 1, b: ratios[1] / ratios[2] },
    budget: difference.lines,
  };
}

/** Numerical sensitivities of the cast to the stops of each channel. */
function gradientsOf(channels: readonly number[], space: ColorSpace) {
  const step = 1e-4;
  const change = (key: 'a' | 'b' | 'deltaE00' | 'miredShift') =>
    [0, 1, 2].map((c) => {
      const shifted = (by: number) =>
        castColor(
          channels.map((stops, i) => (i === c ? stops + by : stops)),
          space,
        )[key] ?? 0;
      return (shifted(step) - shifted(-step)) / (2 * step);
    });
  return { a: change('a'), b: change('b'), deltaE00: change('deltaE00'), miredShift: change('miredShift') };
}

/**
 * First order, not cut at 0 (formats.md). At gray itself ΔE00 has no derivative: there the uncertainties of a* and b*
 * stand in, blended over the region where they are as large as the cast.
 */
function colorDifferenceUncertainty(
  contributions: readonly Contribution[],
  gradients: ReturnType<typeof gradientsOf>,
  color: CastColor,
) {
  const chroma = Math.hypot(color.a, color.b);
  const total = (gradient: readonly number[]) =>
    contributions.reduce((sum, part) => sum + propagate(part.covariance, gradient), 0);
  const inPlane = Math.sqrt((total(gradients.a) + total(gradients.b)) / 2);
  if (chroma > 2 * inPlane) return expand(contributions, gradients.deltaE00);
  return combine(
    contributions.map((part) => ({
      source: part.source,
      u: Math.sqrt((propagate(part.covariance, gradients.a) + propagate(part.covariance, gradients.b)) / 2),
      degreesOfFreedom: part.degreesOfFreedom,
    })),
  );
}
