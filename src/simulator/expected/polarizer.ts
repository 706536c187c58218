/** What polarizers come to by Malus's law and the simulated surfaces' own light. */
import { surfacesOf } from '../polarized';
import type { Polarization, TrueFilter } from '../truth';
import { expectedLuminousStops } from './color';

/** Weights of R, G, B in luminance, IEC 61966-2-1. */
const LUMINANCE = [0.2126, 0.7152, 0.0722];

export interface ExpectedSweep {
  brightest: number;
  darkest: number;
  extinction: number;
  /** Ring angle of the brightest, modulo 180. */
  axisDegrees: number;
}

/**
 * A sweep before a screen. Of unpolarized light a polarizer passes (1 + e)/2 of what it passes along its axis, e being 2^−extinction:
 * its stops before a screen are counted from there.
 */
export function expectedSweep({ lightDegrees }: Polarization, { stops, polarizer }: TrueFilter): ExpectedSweep {
  const { extinctionStops, axisDegrees } = polarizer!;
  const brightest = expectedLuminousStops(stops) - 1 + Math.log2(1 + 2 ** -extinctionStops);
  return {
    brightest,
    darkest: brightest + extinctionStops,
    extinction: extinctionStops,
    axisDegrees: axisDegrees + lightDegrees,
  };
}

/**
 * The truth of a cut: stops of a patch less those of light that isn't polarized, through the darkest angle.
 *
 * @param stops of the filter in unpolarized light, per channel
 */
export function expectedCut(
  scene: 'water' | 'sky',
  polarization: Polarization,
  { stops, polarizer }: Pick<TrueFilter, 'stops' | 'polarizer'>,
): number {
  const [{ surface }] = surfacesOf(scene, polarization);
  const { body, sheen, degree } = surface;
  const leak = 2 ** -polarizer!.extinctionStops;
  const least = (2 * leak) / (1 + leak);
  // R_Y weights the channels' ratios, not their light (formats.md).
  const weights = LUMINANCE.map((weight, c) => weight * 2 ** -stops[c]);
  const passed = weights.map(
    (weight, c) => (weight * (body[c] + sheen[c] * (1 - degree + degree * least))) / (body[c] + sheen[c]),
  );
  const sum = (list: readonly number[]) => list.reduce((total, one) => total + one, 0);
  return Math.log2(sum(weights) / sum(passed));
}
