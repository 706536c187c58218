/** The unknowns of a response's estimate in their order, and what is known of them before any picture spoke. */
import { CURVES } from './curve';
import type { Evidence } from './model';

/** Behind the curves what all pictures share: adapting tone, gain on local contrast, and its powers toward black and white. */
export const [AUTOMATIC, LOCAL, IN_DARK, IN_LIGHT] = [CURVES, CURVES + 1, CURVES + 2, CURVES + 3];
const PICTURES_FROM = CURVES + 4;
/** A picture's offset, red and blue balance, slope. */
const A_PICTURE = 4;
/** A strength's channels, r², r⁴ and two tilts. */
export const A_STRENGTH = 7;
/** A scene's drift and bend of light. */
const A_SCENE = 2;

/** Standard deviations of what is known beforehand: slopes, gains and stops. */
export const PRIOR = {
  automatic: 0.25,
  local: 0.12,
  inDark: { value: 0.7, u: 0.5 },
  inLight: { value: 0.5, u: 0.5 },
  falloff: 0.3,
  tilt: 0.05,
  drift: 0.3,
  bend: 0.1,
  strength: 8,
};
/** Bounds of a gain on local contrast: below −1 it would turn what is darker into what is brighter. */
export const GAINS = { least: -0.9, most: 2 };
/** Bounds of the powers by which a local gain goes. */
export const POWERS = { least: -0.25, most: 3 };
/** Terms of a picture: offset, balance, slope. A prior worth two observations, and floors. */
export const PICTURE_PRIOR = [0.003, 0.002, 0.002] as const;
export const PICTURE_FLOOR = [0.002, 0.001, 0.0007] as const;
export const PRIOR_COUNT = 2;

/** Where the unknowns of a picture, a strength and a scene begin; the scene after the last one is how many there are. */
export function placesOfUnknowns({ pictures, strengths }: Pick<Evidence, 'pictures' | 'strengths'>) {
  const strengthsFrom = PICTURES_FROM + A_PICTURE * pictures.length;
  return {
    picture: (p: number) => PICTURES_FROM + A_PICTURE * p,
    strength: (s: number) => strengthsFrom + A_STRENGTH * s,
    scene: (s: number) => strengthsFrom + A_STRENGTH * strengths + A_SCENE * s,
  };
}
