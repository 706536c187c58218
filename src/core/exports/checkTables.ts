/** A camera check's curve as an open table: a 1-D `.cube` from code to linear light. */
import type { CameraCheck } from '../session/cameraCheck';

/** `LUT_1D_SIZE` and one line "r g b" a code; the domain is the codes that the check tells. */
export function checkCube({ curve, camera, profile }: CameraCheck): string {
  const ends = [curve[0].code, curve[curve.length - 1].code].map((code) => `${code.toFixed(6)} `.repeat(3).trim());
  const title = [camera, profile, 'code to light']
    .filter(Boolean)
    .join(', ')
    .replace(/["\n\r]/g, ' ');
  return [
    `TITLE "${title}"`,
    `LUT_1D_SIZE ${curve.length}`,
    `DOMAIN_MIN ${ends[0]}`,
    `DOMAIN_MAX ${ends[1]}`,
    ...curve.map(({ light }) => light.map((one) => (2 ** one).toFixed(7)).join(' ')),
    '',
  ].join('\n');
}
