/** Values between the pixels of a grid. */

/** Catmull–Rom between pixels, NaN within two pixels of the edge and beyond. */
export function cubicAt(
  { width, height, data }: { width: number; height: number; data: Float32Array },
  x: number,
  y: number,
): number {
  const u = Math.floor(x);
  const v = Math.floor(y);
  if (!(u >= 1 && v >= 1 && u < width - 2 && v < height - 2)) return NaN;
  const s = x - u;
  const s2 = s * s;
  const s3 = s2 * s;
  const a = (-s + 2 * s2 - s3) / 2;
  const b = (2 - 5 * s2 + 3 * s3) / 2;
  const c = (s + 4 * s2 - 3 * s3) / 2;
  const d = (s3 - s2) / 2;
  const t = y - v;
  const t2 = t * t;
  const t3 = t2 * t;
  let i = (v - 1) * width + u - 1;
  let sum = ((-t + 2 * t2 - t3) / 2) * (a * data[i] + b * data[i + 1] + c * data[i + 2] + d * data[i + 3]);
  i += width;
  sum += ((2 - 5 * t2 + 3 * t3) / 2) * (a * data[i] + b * data[i + 1] + c * data[i + 2] + d * data[i + 3]);
  i += width;
  sum += ((t + 4 * t2 - 3 * t3) / 2) * (a * data[i] + b * data[i + 1] + c * data[i + 2] + d * data[i + 3]);
  i += width;
  return sum + ((t3 - t2) / 2) * (a * data[i] + b * data[i + 1] + c * data[i + 2] + d * data[i + 3]);
}
