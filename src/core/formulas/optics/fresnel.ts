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

/** Below this there is nothing to do for a polarizer, whatever its quality, in stops. Our own judgement. */
const NOTHING_TO_DO = 0.2;

/**
 * What a glare cut means, in plain words, beside what the surface allows.
 *
 * @param cut in stops, measured
 * @param surface of the glare patch, where the session says it
 * @param incidenceDegrees angle of view from the surface's normal
 */
export function glareInWords(cut: number, surface?: Surface, incidenceDegrees?: number): string {
  const found = `It cuts the glare by ${cut.toFixed(2)} stops at best.`;
  if (surface === 'metal')
    return `${found} Metals hardly polarize what they reflect: there is nothing for any polarizer to cut.`;
  if (surface === undefined || incidenceDegrees === undefined)
    return `${found} Enter what reflects and the angle of view, and the most that the surface allows stands beside it.`;
  const { name, index } = SURFACES[surface];
  const most = greatestCut(index, incidenceDegrees);
  const brewster = brewsterDegrees(index);
  const angle = `${name} seen ${incidenceDegrees.toFixed(0)}° from its normal`;
  if (most < NOTHING_TO_DO)
    return `${found} There is nothing to do at this angle: ${angle} allows ${most.toFixed(2)} stop. Go nearer to ${brewster.toFixed(0)}°.`;
  const bound = most > 6 ? 'more than 6 stops' : `${most.toFixed(1)} stops`;
  const share = cut / Math.min(most, 6);
  const rest =
    share < 0.25
      ? 'far less: most of the patch is no reflection, or the ring never stood right'
      : share < 0.75
        ? 'less: a part of the patch’s light is no reflection, or comes from elsewhere'
        : 'about that';
  return `${found} A pure reflection from ${angle} allows ${bound} (all of it at ${brewster.toFixed(0)}°); this is ${rest}.`;
}

/** Said wherever glare is cut. */
export const NO_COLOR_BOOST =
  'A color boost afterwards can raise the chroma that is left, but not bring back what the reflection covered.';
