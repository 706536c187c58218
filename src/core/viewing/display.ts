/** How linear light of a take becomes light of the screen. */
import { invert, multiply, resolveColorSpace, type ColorSpace, type Matrix3 } from '../formulas/color/spaces';
import type { FileEncoding } from '../light/response';
import type { Response } from '../session/schema';

/** Primaries that a picture is handed to the screen in. Both have D65 and sRGB's curve. */
export type Gamut = 'srgb' | 'display-p3';

/** Linear camera RGB → linear RGB of the screen, row-major; whites are not adapted: both are D65 where names are used. */
export function toScreen(space: ColorSpace, gamut: Gamut = 'srgb'): Matrix3 {
  return multiply(invert(resolveColorSpace(gamut).toXyz), space.toXyz);
}

/**
 * Linear light that is shown as white. HDR signals put diffuse white far below their peak: at 75 % of the HLG signal, at 203 cd/m² of PQ's
 * 10,000 (ITU-R BT.2408-7, from memory); what lies above is compressed.
 */
export function whiteOf(response: Response, encoding: FileEncoding | null): number {
  const kind = response.kind === 'file' ? encoding?.transfer : response.kind;
  if (kind === 'hlg') return HLG_WHITE;
  if (kind === 'pq') return 203 / 10_000;
  return 1;
}

/** Inverse OETF of BT.2100 at 0.75: (exp((0.75 − c)/a) + b)/12. */
const HLG_WHITE = (Math.exp((0.75 - 0.55991073) / 0.17883277) + 0.28466892) / 12;

/** From here on light of HDR takes is compressed, in shares of white. */
export const SHOULDER = 0.8;

/** The stated curve of HDR takes: linear up to the shoulder, then an exponential that reaches white only at infinity. */
export function compressed(light: number): number {
  if (light <= SHOULDER) return light;
  const room = 1 - SHOULDER;
  return SHOULDER + room * (1 - Math.exp(-(light - SHOULDER) / room));
}
