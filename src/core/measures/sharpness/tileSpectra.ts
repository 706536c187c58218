/**
 * Sharpness without an edge: spectra of tiles that two pictures of one clip (or two repeats) both show. Their cross spectrum holds what
 * both saw and neither's noise, so that its ratio filtered to bare at the same places is the square of the ratio of their MTFs
 * (measuring.md, section 4).
 */
import { PhasePlane } from '../../formulas/spectra/phase';
import { sincAt } from '../../formulas/spectra/sinc';
import { transform2d } from '../../formulas/spectra/transform';
import { applyHomography, type Homography } from '../../formulas/geometry/homography';
import type { SceneView } from '../../laying/sceneView';

/** Middles of the frequency bins, cycles/pixel. */
export const FREQUENCIES: readonly number[] = Array.from({ length: 14 }, (_, i) => 0.04 + 0.02 * i);
const HALF_BIN = 0.01;

/** Spectrum of one tile, each value the mean over a bin of frequencies. */
export interface TileSpectrum {
  /** Cross power of the two pictures over all directions, along x, along y; a share of the squared mean light. */
  cross: Float64Array;
  crossX: Float64Array;
  crossY: Float64Array;
  /** How much of each picture's own power the cross power is, 0–1. */
  coherence: Float64Array;
}

/** A place in a picture, half widths from its center. */
export type Spot = readonly [x: number, y: number];

/** Tiles looked at in a picture. */
const TILES = 18;
export function tileSize({ fine }: SceneView): number {
  return Math.min(fine.width, fine.height) >= 480 ? 128 : 64;
}

/** Where a picture is textured enough for its spectrum to be told: the middles of its best tiles, the most textured first. */
export function spotsOf(view: SceneView, usable: (spot: Spot) => boolean): Spot[] {
  const size = tileSize(view);
  const { fine } = view;
  const step = size * 0.75;
  const found: { spot: Spot; texture: number }[] = [];
  for (let y = size / 2 + 8; y < fine.height - size / 2 - 8; y += step)
    for (let x = size / 2 + 8; x < fine.width - size / 2 - 8; x += step) {
      const spot = spotAt(view, x, y);
      if (!usable(spot)) continue;
      found.push({ spot, texture: textureOf(view, x, y, size) });
    }
  return found
    .sort((a, b) => b.texture - a.texture)
    .slice(0, TILES)
    .map(({ spot }) => spot);
}

/** From pixels of the fine part to half widths. */
function spotAt({ fine, left, width, height, cellPx, top }: SceneView, x: number, y: number): Spot {
  const half = (width * cellPx) / 2;
  return [(fine.left + x - left - half) / half, (fine.top + y - top - (height * cellPx) / 2) / half];
}

function pixelAt({ fine, left, width, height, cellPx, top }: SceneView, [u, v]: Spot): [number, number] {
  const half = (width * cellPx) / 2;
  return [u * half + half + left - fine.left, v * half + (height * cellPx) / 2 + top - fine.top];
}

/** Mean square of differences of pixels two apart, relative to the mean light: power around an eighth of a cycle and finer. */
function textureOf({ fine }: SceneView, x: number, y: number, size: number): number {
  const [left, top] = [Math.floor(x - size / 2), Math.floor(y - size / 2)];
  let [sum, mean, n] = [0, 0, 0];
  for (let j = top; j < top + size; j += 2)
    for (let i = left; i < left + size; i += 2) {
      const at = j * fine.width + i;
      const [a, b, c] = [fine.data[at], fine.data[at + 2], fine.data[at + 2 * fine.width]];
      sum += (a - b) ** 2 + (a - c) ** 2;
      mean += a;
      n++;
    }
  return mean > 0 ? sum / n / (mean / n) ** 2 : 0;
}

/** A picture seen on the grid of pixels of another: where a point of that one is in it; `null` for the grid's own picture. */
export interface Seen {
  view: SceneView;
  homography: Homography | null;
}

/**
 * Spectra of tiles around spots of a picture; `null` where one of the two doesn't show it. Both are seen on that picture's grid, so that
 * spectra of other pairs on it are of the same parts of the scene at the same frequencies.
 */
export function tileSpectra(
  grid: SceneView,
  first: Seen,
  second: Seen,
  spots: readonly Spot[],
  size = tileSize(grid),
): (TileSpectrum | null)[] {
  const window = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
  return spots.map((spot) => {
    const [cx, cy] = pixelAt(grid, spot);
    const [left, top] = [Math.round(cx - size / 2), Math.round(cy - size / 2)];
    if (left < 0 || top < 0 || left + size > grid.fine.width || top + size > grid.fine.height) return null;
    const data = new Float64Array(2 * size * size);
    const meanA = fillTile(data, 0, grid, first, left, top, size);
    const meanB = fillTile(data, 1, grid, second, left, top, size);
    if (!(meanA > 0) || !(meanB > 0)) return null;
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++) {
        const at = 2 * (y * size + x);
        const weight = window[x] * window[y];
        data[at] = weight * (data[at] / meanA - 1);
        data[at + 1] = weight * (data[at + 1] / meanB - 1);
      }
    transform2d(data, size);
    return binned(data, size);
  });
}

/** Writes a tile into every second place of the data; gives its mean, NaN where the picture doesn't show all of it. */
function fillTile(
  data: Float64Array,
  offset: 0 | 1,
  grid: SceneView,
  { view, homography }: Seen,
  left: number,
  top: number,
  size: number,
): number {
  let sum = 0;
  if (!homography) {
    for (let y = 0; y < size; y++)
      for (let x = 0; x < size; x++)
        sum += data[2 * (y * size + x) + offset] = view.fine.data[(top + y) * view.fine.width + left + x];
    return sum / (size * size);
  }
  // Within a tile a homography is as good as straight: from its corners on, no lists are made for each pixel.
  const place = (x: number, y: number) =>
    pixelAt(view, applyHomography(homography, ...spotAt(grid, left + x + 0.5, top + y + 0.5)));
  const [x00, y00] = place(0, 0);
  const [x10, y10] = place(size, 0);
  const [x01, y01] = place(0, size);
  const [x11, y11] = place(size, size);
  for (let y = 0; y < size; y++) {
    const t = y / size;
    const rowX = x00 + t * (x01 - x00);
    const rowY = y00 + t * (y01 - y00);
    const stepX = (x10 - x00 + t * (x11 - x10 - x01 + x00)) / size;
    const stepY = (y10 - y00 + t * (y11 - y10 - y01 + y00)) / size;
    for (let x = 0; x < size; x++) {
      const value = sincAt(view.fine, rowX + x * stepX - 0.5, rowY + x * stepY - 0.5);
      if (value !== value) return NaN;
      sum += data[2 * (y * size + x) + offset] = value;
    }
  }
  return sum / (size * size);
}

/** The two real tiles' spectra out of the complex one's (one in its real, one in its imaginary part), by bins. */
function binned(data: Float64Array, size: number): TileSpectrum {
  const bins = FREQUENCIES.length;
  const at = (x: number, y: number) => 2 * (((y + size) % size) * size + ((x + size) % size));
  const each = (visit: (fx: number, fy: number, aa: number, bb: number, re: number, im: number) => void) => {
    for (let y = -size / 2 + 1; y < size / 2; y++)
      for (let x = 0; x < size / 2; x++) {
        if (x === 0 && y <= 0) continue;
        const [p, n] = [at(x, y), at(-x, -y)];
        const [ar, ai] = [(data[p] + data[n]) / 2, (data[p + 1] - data[n + 1]) / 2];
        const [br, bi] = [(data[p + 1] + data[n + 1]) / 2, (data[n] - data[p]) / 2];
        visit(x / size, y / size, ar * ar + ai * ai, br * br + bi * bi, ar * br + ai * bi, ai * br - ar * bi);
      }
  };
  // What is left of a shift turns the phase in proportion to the frequency: taken out, told by the coarse part.
  const plane = new PhasePlane();
  each((fx, fy, _aa, _bb, re, im) => {
    if (Math.hypot(fx, fy) <= 0.14 && re > 0) plane.add(fx, fy, re, im);
  });
  const [sx, sy] = plane.slope() ?? [0, 0];
  const out = {
    cross: new Float64Array(bins),
    crossX: new Float64Array(bins),
    crossY: new Float64Array(bins),
    coherence: new Float64Array(bins),
  };
  const [counts, countsX, countsY] = [new Float64Array(bins), new Float64Array(bins), new Float64Array(bins)];
  const [own, other] = [new Float64Array(bins), new Float64Array(bins)];
  each((fx, fy, aa, bb, re, im) => {
    const bin = Math.round((Math.hypot(fx, fy) - FREQUENCIES[0]) / (2 * HALF_BIN));
    if (bin < 0 || bin >= bins) return;
    const turn = sx * fx + sy * fy;
    const power = re * Math.cos(turn) + im * Math.sin(turn);
    out.cross[bin] += power;
    own[bin] += aa;
    other[bin] += bb;
    counts[bin]++;
    if (fx > 2 * Math.abs(fy)) {
      out.crossX[bin] += power;
      countsX[bin]++;
    } else if (Math.abs(fy) > 2 * fx) {
      out.crossY[bin] += power;
      countsY[bin]++;
    }
  });
  for (let i = 0; i < bins; i++) {
    out.coherence[i] = out.cross[i] / Math.max(1e-30, Math.sqrt(own[i] * other[i]));
    out.cross[i] /= Math.max(1, counts[i]);
    out.crossX[i] /= Math.max(1, countsX[i]);
    out.crossY[i] /= Math.max(1, countsY[i]);
  }
  return out;
}
