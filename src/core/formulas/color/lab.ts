/** CIE 1976 L*a*b* (CIE 15:2004) and CIEDE2000 (Sharma, Wu & Dalal 2005). */
import type { Vector3 } from './spaces';

export type Lab = readonly [number, number, number];

const EPSILON = (6 / 29) ** 3;

function labCurve(t: number): number {
  return t > EPSILON ? Math.cbrt(t) : t / (3 * (6 / 29) ** 2) + 4 / 29;
}

/** L*a*b* of XYZ under a white; both on the same scale. */
export function labFromXyz(xyz: Vector3, white: Vector3): Lab {
  const fx = labCurve(xyz[0] / white[0]);
  const fy = labCurve(xyz[1] / white[1]);
  const fz = labCurve(xyz[2] / white[2]);
  return [116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)];
}

/** Relative luminance Y (white = 1) of a lightness L* above 8. */
export function luminanceOfLightness(lightness: number): number {
  return ((lightness + 16) / 116) ** 3;
}

/** Hue angle of (a, b) in degrees, [0, 360). 0 for gray. */
export function hueDegrees(a: number, b: number): number {
  if (a === 0 && b === 0) return 0;
  const degrees = (Math.atan2(b, a) * 180) / Math.PI;
  return degrees < 0 ? degrees + 360 : degrees;
}

/**
 * Color difference CIEDE2000 with kL = kC = kH = 1.
 * Source: Sharma, Wu & Dalal, Color Res. Appl. 30 (2005) 21–30, equations 2–22.
 */
export function deltaE00(first: Lab, second: Lab): number {
  const [l1, a1, b1] = first;
  const [l2, a2, b2] = second;
  const meanChroma = (Math.hypot(a1, b1) + Math.hypot(a2, b2)) / 2;
  const c7 = meanChroma ** 7;
  const g = 0.5 * (1 - Math.sqrt(c7 / (c7 + 25 ** 7)));
  const a1p = (1 + g) * a1;
  const a2p = (1 + g) * a2;
  const c1p = Math.hypot(a1p, b1);
  const c2p = Math.hypot(a2p, b2);
  const h1p = hueDegrees(a1p, b1);
  const h2p = hueDegrees(a2p, b2);

  const lightnessStep = l2 - l1;
  const chromaStep = c2p - c1p;
  let hueStep = 0;
  let meanHue = h1p + h2p;
  if (c1p * c2p !== 0) {
    hueStep = h2p - h1p;
    if (hueStep > 180) hueStep -= 360;
    else if (hueStep < -180) hueStep += 360;
    if (Math.abs(h1p - h2p) <= 180) meanHue = (h1p + h2p) / 2;
    else meanHue = h1p + h2p < 360 ? (h1p + h2p + 360) / 2 : (h1p + h2p - 360) / 2;
  }
  const hueDistance = 2 * Math.sqrt(c1p * c2p) * Math.sin(radians(hueStep) / 2);

  const meanLightness = (l1 + l2) / 2;
  const meanChromaPrime = (c1p + c2p) / 2;
  const t =
    1 -
    0.17 * Math.cos(radians(meanHue - 30)) +
    0.24 * Math.cos(radians(2 * meanHue)) +
    0.32 * Math.cos(radians(3 * meanHue + 6)) -
    0.2 * Math.cos(radians(4 * meanHue - 63));
  const rotation = 30 * Math.exp(-(((meanHue - 275) / 25) ** 2));
  const cp7 = meanChromaPrime ** 7;
  const rc = 2 * Math.sqrt(cp7 / (cp7 + 25 ** 7));
  const offset = (meanLightness - 50) ** 2;
  const sl = 1 + (0.015 * offset) / Math.sqrt(20 + offset);
  const sc = 1 + 0.045 * meanChromaPrime;
  const sh = 1 + 0.015 * meanChromaPrime * t;
  const rt = -Math.sin(radians(2 * rotation)) * rc;
  const l = lightnessStep / sl;
  const c = chromaStep / sc;
  const h = hueDistance / sh;
  return Math.sqrt(l * l + c * c + h * h + rt * c * h);
}

function radians(degrees: number): number {
  return (degrees * Math.PI) / 180;
}
