/**
 * RGB color spaces as the session names them, and what follows from them: RGB→XYZ, the luminance row, the white.
 *
 * Primaries: IEC 61966-2-1 (sRGB), SMPTE EG 432-1 (Display P3), ITU-R BT.2020-2; white D65 (0.3127, 0.3290).
 */

/** Row-major 3 × 3 matrix. */
export type Matrix3 = readonly [number, number, number, number, number, number, number, number, number];
export type Vector3 = readonly [number, number, number];

export interface ColorSpace {
  /** Linear RGB → XYZ with Y of white = 1. */
  toXyz: Matrix3;
  /** XYZ of RGB (1, 1, 1), Y = 1. */
  white: Vector3;
}

export type ColorSpaceName = 'srgb' | 'display-p3' | 'rec2020';

type Chromaticity = readonly [number, number];
const D65: Chromaticity = [0.3127, 0.329];
const PRIMARIES: Record<ColorSpaceName, readonly [Chromaticity, Chromaticity, Chromaticity]> = {
  srgb: [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  'display-p3': [
    [0.68, 0.32],
    [0.265, 0.69],
    [0.15, 0.06],
  ],
  rec2020: [
    [0.708, 0.292],
    [0.17, 0.797],
    [0.131, 0.046],
  ],
};

/** The space behind a session's `colorSpace`: a name, or a matrix of the session's own. */
export function resolveColorSpace(
  given: ColorSpaceName | { toXyz: readonly number[]; white?: readonly number[] },
): ColorSpace {
  if (typeof given === 'string') return fromPrimaries(PRIMARIES[given], D65);
  const matrix = given.toXyz as unknown as Matrix3;
  const sum = apply(matrix, [1, 1, 1]);
  const white = given.white ? (given.white as unknown as Vector3) : sum;
  // Both are scaled to a white of Y = 1, so that luminance weights add up to one.
  return {
    toXyz: matrix.map((value) => value / sum[1]) as unknown as Matrix3,
    white: white.map((value) => value / white[1]) as unknown as Vector3,
  };
}

/** Weights of linear R, G, B in luminance: the middle row of RGB→XYZ. */
export function luminanceRow(space: ColorSpace): Vector3 {
  return [space.toXyz[3], space.toXyz[4], space.toXyz[5]];
}

/** RGB→XYZ from chromaticities (SMPTE RP 177, the usual normalised primary matrix). */
export function fromPrimaries(
  primaries: readonly [Chromaticity, Chromaticity, Chromaticity],
  whitePoint: Chromaticity,
): ColorSpace {
  const column = ([x, y]: Chromaticity): Vector3 => [x / y, 1, (1 - x - y) / y];
  const [r, g, b] = primaries.map(column);
  const white = column(whitePoint);
  const unscaled: Matrix3 = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const scale = apply(invert(unscaled), white);
  const toXyz = unscaled.map((value, index) => value * scale[index % 3]) as unknown as Matrix3;
  return { toXyz, white };
}

/** Matrix times column vector. */
export function apply(m: Matrix3, v: Vector3): Vector3 {
  return [
    m[0] * v[0] + m[1] * v[1] + m[2] * v[2],
    m[3] * v[0] + m[4] * v[1] + m[5] * v[2],
    m[6] * v[0] + m[7] * v[1] + m[8] * v[2],
  ];
}

/** Matrix product a·b. */
export function multiply(a: Matrix3, b: Matrix3): Matrix3 {
  const product: number[] = [];
  for (let row = 0; row < 3; row++)
    for (let column = 0; column < 3; column++)
      product.push(a[3 * row] * b[column] + a[3 * row + 1] * b[3 + column] + a[3 * row + 2] * b[6 + column]);
  return product as unknown as Matrix3;
}

/** Inverse of a regular matrix. Throws on a singular one, which no color space has. */
export function invert(m: Matrix3): Matrix3 {
  const c00 = m[4] * m[8] - m[5] * m[7];
  const c01 = m[5] * m[6] - m[3] * m[8];
  const c02 = m[3] * m[7] - m[4] * m[6];
  const determinant = m[0] * c00 + m[1] * c01 + m[2] * c02;
  if (Math.abs(determinant) < 1e-12) throw new RangeError('This color matrix has no inverse.');
  return [
    c00,
    m[2] * m[7] - m[1] * m[8],
    m[1] * m[5] - m[2] * m[4],
    c01,
    m[0] * m[8] - m[2] * m[6],
    m[2] * m[3] - m[0] * m[5],
    c02,
    m[1] * m[6] - m[0] * m[7],
    m[0] * m[4] - m[1] * m[3],
  ].map((value) => value / determinant) as unknown as Matrix3;
}
