/** How far a polarizer can darken a clear sky: single Rayleigh scattering (J. W. Strutt, Phil. Mag. 41, 1871), thinned by haze. */

/** A direction: compass heading and height above the horizon, degrees. */
export interface Direction {
  azimuth: number;
  altitude: number;
}

const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Degree of polarization sin²γ/(1 + cos²γ) at an angle γ (degrees) to the sun: 0 towards and away from it, 1 at 90°. */
export function rayleighPolarization(gammaDegrees: number): number {
  const cos2 = Math.cos(radians(gammaDegrees)) ** 2;
  return (1 - cos2) / (1 + cos2);
}

/**
 * Darkening against an unpolarized reference at the best ring angle, in stops.
 *
 * @param clarity share of the ideal polarization that haze leaves, 0–1; clear skies reach 0.7–0.85 at 90° (common practice, no source)
 */
export function skyDarkening(gammaDegrees: number, clarity = 0.75): number {
  return -Math.log2(1 - clarity * rayleighPolarization(gammaDegrees));
}

/** Angle between two directions, degrees. */
export function angleBetween(a: Direction, b: Direction): number {
  const cos =
    Math.sin(radians(a.altitude)) * Math.sin(radians(b.altitude)) +
    Math.cos(radians(a.altitude)) * Math.cos(radians(b.altitude)) * Math.cos(radians(a.azimuth - b.azimuth));
  return (Math.acos(Math.min(1, Math.max(-1, cos))) * 180) / Math.PI;
}

/** Headings (degrees, 0–360) at one height above the horizon with what a polarizer does there. */
export function skyRose(
  sun: Direction,
  altitude = 20,
  clarity = 0.75,
  step = 10,
): { azimuth: number; stops: number }[] {
  return Array.from({ length: Math.round(360 / step) }, (_, i) => {
    const azimuth = i * step;
    return { azimuth, stops: skyDarkening(angleBetween({ azimuth, altitude }, sun), clarity) };
  });
}

/** Darkest less lightest sky across a lens's horizontal field of view, in stops. */
export function skyUnevenness(sun: Direction, view: Direction, fieldDegrees: number, clarity = 0.75): number {
  const across = Array.from({ length: 41 }, (_, i) =>
    skyDarkening(angleBetween({ ...view, azimuth: view.azimuth + fieldDegrees * (i / 40 - 0.5) }, sun), clarity),
  );
  return Math.max(...across) - Math.min(...across);
}
