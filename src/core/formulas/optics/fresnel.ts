/** What a polarizer can do to a reflection: Fresnel's equations (E. Hecht, Optics, §4.6; M. Born & E. Wolf, Principles of Optics, §1.5). */

/** Surfaces that a session may name, with their refractive index; metals follow other laws. */
export const SURFACES = {
  water: { name: 'water', index: 1.333 },
  glass: { name: 'glass', index: 1.5 },
  /** Cuticular wax, quoted from memory. */
  leaf: { name: 'leaf wax', index: 1.45 },
  metal: { name: 'metal', index: null },
} as const;
export type Surface = keyof typeof SURFACES;

/** Shares of light reflected, polarized across (s) and along (p) the plane of incidence. */
export interface Reflectance {
  s: number;
  p: number;
}

/**
 * Reflectance of a smooth, clear surface in air.
 *
 * @param index refractive index, above 1
 * @param incidenceDegrees from the surface's normal, 0–90
 */
export function reflectance(index: number, incidenceDegrees: number): Reflectance {
  const incidence = (incidenceDegrees * Math.PI) / 180;
  const [ci, ct] = [Math.cos(incidence), Math.sqrt(1 - (Math.sin(incidence) / index) ** 2)];
  const s = ((ci - index * ct) / (ci + index * ct)) ** 2;
  const p = ((index * ci - ct) / (index * ci + ct)) ** 2;
  return { s, p };
}

/** The angle of incidence at which a reflection is wholly polarized: tan θ_B = n. Degrees. */
export function brewsterDegrees(index: number): number {
  return (Math.atan(index) * 180) / Math.PI;
}

/**
 * The greatest cut of a pure reflection of unpolarized light against a surface that doesn't reflect, in stops: an ideal polarizer
 * leaves the p part, 2·R_p/(R_s + R_p) of it. Infinity at Brewster's angle.
 */
export function greatestCut(index: number, incidenceDegrees: number): number {
  const { s, p } = reflectance(index, incidenceDegrees);
  return -Math.log2((2 * p) / (s + p));
}
