/**
 * The e-SFR of one edge against a computation by numpy, made once by the script below (Python 3.11, numpy 2.4); it shares no code with ours
 * and takes the edge's own line from the same pictures.
 *
 *   import numpy as np
 *   from math import erf
 *   W, H, deg, sigma, low = 80, 120, 5.2, 0.7, 0.1
 *   c, s = np.cos(np.radians(deg)), np.sin(np.radians(deg))
 *   sub = (np.arange(16) + 0.5) / 16
 *   img = np.zeros((H, W))                     # each pixel the mean of 16 × 16 points of the exact edge
 *   for y in range(H):
 *       yy, xx = y + sub, np.arange(W)[:, None] + sub
 *       d = (xx[:, :, None] - W / 2) * c + (yy[None, None, :] - H / 2) * s
 *       img[y] = (low + (1 - low) * 0.5 * (1 + np.vectorize(erf)(d / sigma / np.sqrt(2)))).mean(axis=(1, 2))
 *   d, x = np.diff(img, axis=1), np.arange(W - 1) + 1.0
 *   k, b = np.polyfit(np.arange(H) + 0.5, (d * x).sum(1) / d.sum(1), 1)
 *   X, Y = np.meshgrid(np.arange(W) + 0.5, np.arange(H) + 0.5)
 *   bins = np.floor((X - (k * Y + b)) * np.cos(np.arctan(k)) * 4).astype(int); bins -= bins.min()
 *   e = np.bincount(bins.ravel(), img.ravel()) / np.maximum(np.bincount(bins.ravel()), 1)
 *   mid = np.argmax(np.abs(np.gradient(e))); half = min(mid, len(e) - 1 - mid) - 8
 *   e = e[mid - half:mid + half + 1]
 *   l = np.zeros_like(e); l[1:-1] = (e[2:] - e[:-2]) / 2
 *   t = np.linspace(-1, 1, len(l))
 *   l *= np.where(np.abs(t) <= 0.5, 1, 0.5 * (1 + np.cos(np.pi * (np.abs(t) - 0.5) / 0.5)))
 *   F, f = np.abs(np.fft.rfft(l, 4096)), np.fft.rfftfreq(4096, 0.25)
 *   F /= F[0] * np.sinc(f / 2) * np.sinc(f / 4)
 */
import { measureEdge, type EdgeResponse } from './edge';

const FOUND = { mtf50: 0.24819445800405648, at: [[0.1, 0.8937], [0.2, 0.6378], [0.3, 0.3627], [0.4, 0.163]] }; // prettier-ignore
const [WIDTH, HEIGHT, DEGREES, SIGMA, LOW] = [80, 120, 5.2, 0.7, 0.1];

/** erf(x) = 2/√π · Σ (−1)ⁿ x²ⁿ⁺¹ / (n! (2n+1)), Abramowitz & Stegun 7.1.5; beyond 4 it is one to eight digits. */
function erf(x: number): number {
  if (Math.abs(x) > 4) return Math.sign(x);
  let [term, sum] = [x, x];
  for (let n = 1; n < 80; n++) {
    term *= (-x * x) / n;
    sum += term / (2 * n + 1);
  }
  return (2 / Math.sqrt(Math.PI)) * sum;
}

test('numpy finds the same response', () => {
  const [cos, sin] = [Math.cos((DEGREES * Math.PI) / 180), Math.sin((DEGREES * Math.PI) / 180)];
  const data = new Float64Array(WIDTH * HEIGHT);
  const table = new Map<number, number>();
  const edge = (distance: number) => {
    const key = Math.round(distance * 2000);
    if (!table.has(key)) table.set(key, LOW + (1 - LOW) * 0.5 * (1 + erf(key / 2000 / SIGMA / Math.SQRT2)));
    return table.get(key)!;
  };
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      let sum = 0;
      for (let j = 0; j < 16; j++)
        for (let i = 0; i < 16; i++)
          sum += edge((x + (i + 0.5) / 16 - WIDTH / 2) * cos + (y + (j + 0.5) / 16 - HEIGHT / 2) * sin);
      data[y * WIDTH + x] = sum / 256;
    }
  const { mtf50, angleDegrees, curve } = measureEdge({ width: WIDTH, height: HEIGHT, data }) as EdgeResponse;
  expect(Math.abs(mtf50 / FOUND.mtf50 - 1)).toBeLessThan(0.004);
  expect(Math.abs(angleDegrees)).toBeCloseTo(DEGREES, 2);
  for (const [f, value] of FOUND.at) {
    const at = 64 * f;
    const [before, share] = [Math.floor(at), at - Math.floor(at)];
    const ours = curve[before] * (1 - share) + curve[before + 1] * share;
    expect(Math.abs(ours - value)).toBeLessThan(0.004);
  }
});
