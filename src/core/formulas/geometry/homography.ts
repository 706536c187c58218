/**
 * Homographies between frames. Points are in half widths of the frame from its center, right and down, so that one matrix serves every
 * size of the same picture.
 */
import { solveLinear } from '../statistics/leastSquares';

/** Row-major 3 × 3, the last entry 1. */
export type Homography = readonly number[];

export const NO_MOVE: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export function applyHomography(h: Homography, x: number, y: number): [number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}

/** first, then second. */
export function composeHomographies(second: Homography, first: Homography): Homography {
  const out = new Array<number>(9).fill(0);
  for (let i = 0; i < 3; i++)
    for (let j = 0; j < 3; j++) for (let k = 0; k < 3; k++) out[3 * i + j] += second[3 * i + k] * first[3 * k + j];
  return out.map((value) => value / out[8]);
}

/** Rejects nothing: a singular matrix gives one of infinities. */
export function invertHomography(h: Homography): Homography {
  const [a, b, c, d, e, f, g, i, j] = h;
  const out = [
    e * j - f * i, c * i - b * j, b * f - c * e,
    f * g - d * j, a * j - c * g, c * d - a * f,
    d * i - e * g, b * g - a * i, a * e - b * d,
  ]; // prettier-ignore
  return out.map((value) => value / out[8]);
}

/** Scale, rotation (radians, clockwise as seen) and shift in half widths. */
export function similarity(scale: number, rotation: number, dx: number, dy: number): Homography {
  const [c, s] = [scale * Math.cos(rotation), scale * Math.sin(rotation)];
  return [c, -s, dx, s, c, dy, 0, 0, 1];
}

/** A pair of points, from and to. */
export type PointPair = readonly [x: number, y: number, tx: number, ty: number];

/** The similarity that takes two points to two others; `null` where they coincide. */
export function similarityOf([x0, y0, u0, v0]: PointPair, [x1, y1, u1, v1]: PointPair): Homography | null {
  const [dx, dy, du, dv] = [x1 - x0, y1 - y0, u1 - u0, v1 - v0];
  const length = dx * dx + dy * dy;
  if (length < 1e-9) return null;
  const c = (dx * du + dy * dv) / length;
  const s = (dx * dv - dy * du) / length;
  return [c, -s, u0 - c * x0 + s * y0, s, c, v0 - s * x0 - c * y0, 0, 0, 1];
}

/** The homography of least squares through four or more pairs (linear in its entries); `null` where they can't tell. */
export function homographyOf(pairs: readonly PointPair[]): Homography | null {
  const normal = Array.from({ length: 8 }, () => new Array<number>(8).fill(0));
  const right = new Array<number>(8).fill(0);
  for (const [x, y, u, v] of pairs)
    for (const [row, value] of [
      [[x, y, 1, 0, 0, 0, -u * x, -u * y], u],
      [[0, 0, 0, x, y, 1, -v * x, -v * y], v],
    ] as const)
      for (let i = 0; i < 8; i++) {
        right[i] += row[i] * value;
        for (let j = 0; j < 8; j++) normal[i][j] += row[i] * row[j];
      }
  for (let i = 0; i < 8; i++) normal[i][i] += 1e-9;
  const found = solveLinear(normal, right);
  return found && found.every(Number.isFinite) ? [...found, 1] : null;
}

/** Root mean square distance of two homographies over a frame, in pixels of a width. */
export function apartPx(a: Homography, b: Homography, width: number, height: number): number {
  let sum = 0;
  for (let j = -2; j <= 2; j++)
    for (let i = -2; i <= 2; i++) {
      const [x, y] = [(i / 2) * 0.95, ((j / 2) * 0.95 * height) / width];
      const [u, v] = applyHomography(a, x, y);
      const [p, q] = applyHomography(b, x, y);
      sum += (u - p) ** 2 + (v - q) ** 2;
    }
  return Math.sqrt(sum / 25) * (width / 2);
}
