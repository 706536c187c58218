/**
 * What a filter's stops per channel come to as luminous strength and as a cast, by a general color library (culori: sRGB primaries of
 * IEC 61966-2-1, CIE L*a*b* under D65, CIEDE2000) and a published formula. Nothing of the measuring code is used.
 */
import { converter, differenceCiede2000 } from 'culori';

type Stops = readonly [number, number, number];

const toXyz = converter('xyz65');
const toLab = converter('lab65');
const difference = differenceCiede2000();
/** Linear light of L* = 50: ((50 + 16) / 116)³, CIE 15:2018, section 8.2.1. */
const MIDDLE = (66 / 116) ** 3;

const ratiosOf = (stops: Stops) => stops.map((one) => 2 ** -one) as [number, number, number];

/** Linear sRGB to XYZ, D65. */
function xyzOf([r, g, b]: Stops) {
  return toXyz({ mode: 'lrgb', r, g, b })!;
}

/** Stops of luminance: −log2 of the relative luminance of the channels' ratios. */
export function expectedLuminousStops(stops: Stops): number {
  return -Math.log2(xyzOf(ratiosOf(stops)).y);
}

export interface ExpectedCast {
  a: number;
  b: number;
  deltaE00: number;
  /** Change of 10⁶ / CCT against the white. */
  miredShift: number;
}

/** The cast at L* = 50 (formats.md, section 2). */
export function expectedCast(stops: Stops): ExpectedCast {
  const ratios = ratiosOf(stops);
  const level = MIDDLE / xyzOf(ratios).y;
  const [r, g, b] = ratios.map((one) => one * level);
  const lab = toLab({ mode: 'lrgb', r, g, b })!;
  return {
    a: lab.a,
    b: lab.b,
    deltaE00: difference(lab, { mode: 'lab65', l: 50, a: 0, b: 0 }),
    miredShift: 1e6 / kelvinOf(ratios) - 1e6 / kelvinOf([1, 1, 1]),
  };
}

/**
 * Correlated color temperature by Hernández-Andrés, Lee & Romero, Applied Optics 38 (1999) 5703, table 1 (3000–50 000 K), quoted from
 * memory: within some ten kelvin of a search along the Planckian locus.
 */
function kelvinOf(light: Stops): number {
  const { x: X, y: Y, z: Z } = xyzOf(light);
  const [x, y] = [X / (X + Y + Z), Y / (X + Y + Z)];
  const n = (x - 0.3366) / (y - 0.1735);
  return (
    -949.86315 +
    6253.80338 * Math.exp(-n / 0.92159) +
    28.70599 * Math.exp(-n / 0.20039) +
    0.00004 * Math.exp(-n / 0.07125)
  );
}

export interface ExpectedSurface {
  /** C*ab through the filter over bare's, both equally bright on gray. */
  chromaRatio: number;
  /** Degrees of hue from bare to filtered, −180 to 180. */
  hueShiftDegrees: number;
  /** Stops that the surface is darker than gray. */
  contrastStops: number;
  /** The ratio of the darker picture as it was shot. */
  asShotRatio: number;
}

/** What a filter does to a surface of this linear sRGB (formats.md, "colors"): above CIE L*'s straight part its brightness doesn't matter. */
export function expectedSurface(surface: Stops, stops: Stops): ExpectedSurface {
  const level = expectedLuminousStops(stops);
  const through = (raised: number) =>
    surface.map((light, c) => light * 2 ** (raised - stops[c])) as [number, number, number];
  const labOf = ([r, g, b]: Stops) => toLab({ mode: 'lrgb', r, g, b })!;
  const [bare, filtered, shot] = [labOf(surface), labOf(through(level)), labOf(through(0))];
  const chroma = ({ a, b }: { a: number; b: number }) => Math.hypot(a, b);
  const hue = ({ a, b }: { a: number; b: number }) => (Math.atan2(b, a) * 180) / Math.PI;
  return {
    chromaRatio: chroma(filtered) / chroma(bare),
    hueShiftDegrees: ((hue(filtered) - hue(bare) + 540) % 360) - 180,
    contrastStops: -Math.log2(xyzOf(through(0)).y / xyzOf(surface).y) - level,
    asShotRatio: chroma(shot) / chroma(bare),
  };
}
