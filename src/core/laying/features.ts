/**
 * A start for laying one view on another whatever lies between them: corners (Harris & Stephens 1988), each with an upright patch of its
 * surroundings, matched both ways by correlation, and the similarity on which most matches agree (RANSAC, Fischler & Bolles 1981).
 */
import { seededUniforms } from '../formulas/statistics/seededNormals';
import { similarityOf, type Homography, type PointPair } from '../formulas/geometry/homography';
import type { Preview } from './preview';

interface Corner {
  /** Half widths from the center. */
  x: number;
  y: number;
  /** Surroundings, turned upright, mean 0 and length 1. */
  patch: Float32Array;
}

const CORNERS = 170;
/** Cells of the grid over which corners are spread, each way. */
const GRID = 10;
const PATCH = 12;
/** Pixels between the samples of a patch. */
const SPACING = 1.6;
/** Matches correlate at least so well, and clearly better than the second best. Our own judgement. */
const LEAST_LIKE = 0.65;
const CLEARLY_BEST = 0.06;
const DRAWS = 600;
/** Matches within this of a similarity agree with it, half widths. */
const WITHIN = 0.012;
const FEWEST = 8;

function cornersOf(view: Preview): Corner[] {
  const { width, height, data } = view;
  const xx = new Float32Array(data.length);
  const yy = new Float32Array(data.length);
  const xy = new Float32Array(data.length);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const gx = data[i + 1] - data[i - 1];
      const gy = data[i + width] - data[i - width];
      xx[i] = gx * gx;
      yy[i] = gy * gy;
      xy[i] = gx * gy;
    }
  const sum = (of: Float32Array, i: number) => {
    let total = 0;
    for (let dy = -2; dy <= 2; dy++) for (let dx = -2; dx <= 2; dx++) total += of[i + dy * width + dx];
    return total;
  };
  const strength = new Float32Array(data.length);
  const reach = Math.ceil((PATCH / 2) * SPACING * Math.SQRT2) + 2;
  for (let y = reach; y < height - reach; y++)
    for (let x = reach; x < width - reach; x++) {
      const i = y * width + x;
      const [a, b, c] = [sum(xx, i), sum(yy, i), sum(xy, i)];
      strength[i] = a * b - c * c - 0.05 * (a + b) ** 2;
    }
  const cells: { at: number; strength: number }[][] = Array.from({ length: GRID * GRID }, () => []);
  for (let y = reach; y < height - reach; y++)
    for (let x = reach; x < width - reach; x++) {
      const i = y * width + x;
      const own = strength[i];
      if (!(own > 0)) continue;
      let top = true;
      for (let dy = -2; dy <= 2 && top; dy++)
        for (let dx = -2; dx <= 2; dx++) if (strength[i + dy * width + dx] > own) top = false;
      if (top)
        cells[Math.floor((y * GRID) / height) * GRID + Math.floor((x * GRID) / width)].push({ at: i, strength: own });
    }
  const kept = cells.flatMap((cell) =>
    cell.sort((a, b) => b.strength - a.strength).slice(0, Math.ceil((2 * CORNERS) / (GRID * GRID))),
  );
  kept.sort((a, b) => b.strength - a.strength);
  return kept.slice(0, CORNERS).flatMap(({ at }) => {
    const [px, py] = [at % width, Math.floor(at / width)];
    const patch = patchAt(view, px, py);
    return patch ? [{ x: (px + 0.5 - width / 2) / (width / 2), y: (py + 0.5 - height / 2) / (width / 2), patch }] : [];
  });
}

function sample({ width, data }: Preview, x: number, y: number): number {
  const [u, v] = [Math.floor(x), Math.floor(y)];
  const [s, t] = [x - u, y - v];
  const i = v * width + u;
  return (1 - t) * ((1 - s) * data[i] + s * data[i + 1]) + t * ((1 - s) * data[i + width] + s * data[i + width + 1]);
}

/** The surroundings of a corner, turned so that their brightness points to the right (intensity centroid, Rosin 1999). */
function patchAt(view: Preview, px: number, py: number): Float32Array | null {
  let [mx, my] = [0, 0];
  const radius = 8;
  for (let dy = -radius; dy <= radius; dy++)
    for (let dx = -radius; dx <= radius; dx++) {
      if (dx * dx + dy * dy > radius * radius) continue;
      const value = view.data[(py + dy) * view.width + px + dx];
      mx += dx * value;
      my += dy * value;
    }
  const angle = Math.atan2(my, mx);
  const [c, s] = [Math.cos(angle) * SPACING, Math.sin(angle) * SPACING];
  const out = new Float32Array(PATCH * PATCH);
  let mean = 0;
  for (let j = 0; j < PATCH; j++)
    for (let i = 0; i < PATCH; i++) {
      const [u, v] = [i - (PATCH - 1) / 2, j - (PATCH - 1) / 2];
      const value = sample(view, px + c * u - s * v, py + s * u + c * v);
      out[j * PATCH + i] = value;
      mean += value / out.length;
    }
  let length = 0;
  for (let i = 0; i < out.length; i++) {
    out[i] -= mean;
    length += out[i] * out[i];
  }
  if (!(length > 1e-8)) return null;
  for (let i = 0; i < out.length; i++) out[i] /= Math.sqrt(length);
  return out;
}

/** Corners of a view at three sizes, for views of other zoom. */
export function featuresOf(view: Preview): Corner[] {
  const sizes = [view];
  while (sizes.length < 3 && sizes[sizes.length - 1].width > 160) sizes.push(shrunk(sizes[sizes.length - 1]));
  return sizes.flatMap(cornersOf);
}

/** Two thirds of the size, by averaging pairs of three. */
function shrunk(view: Preview): Preview {
  const [width, height] = [Math.floor(view.width / 1.5), Math.floor(view.height / 1.5)];
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [Math.min(view.width - 2, 1.5 * x + 0.25), Math.min(view.height - 2, 1.5 * y + 0.25)];
      data[y * width + x] = sample(view, u, v);
    }
  return { width, height, cellPx: 1.5 * view.cellPx, data };
}

/** The similarity on which most matched corners agree, from the first view to the second; `null` where too few do. */
export function similarityBetween(first: readonly Corner[], second: readonly Corner[]): Homography | null {
  const matches = matched(first, second);
  if (matches.length < FEWEST) return null;
  const uniform = seededUniforms(matches.length);
  let best: PointPair[] = [];
  for (let draw = 0; draw < DRAWS; draw++) {
    const [i, j] = [Math.floor(uniform() * matches.length), Math.floor(uniform() * matches.length)];
    const found = i === j ? null : similarityOf(matches[i], matches[j]);
    if (!found || !isPlausible(found)) continue;
    const agreeing = agree(matches, found);
    if (agreeing.length > best.length) best = agreeing;
  }
  if (best.length < FEWEST) return null;
  return fittedSimilarity(best);
}

function isPlausible([c, , , s]: Homography): boolean {
  const scale = Math.hypot(c, s);
  return scale > 0.5 && scale < 2;
}

function agree(matches: readonly PointPair[], [c, , dx, s, , dy]: Homography): PointPair[] {
  return matches.filter(([x, y, u, v]) => Math.hypot(c * x - s * y + dx - u, s * x + c * y + dy - v) < WITHIN);
}

function fittedSimilarity(pairs: readonly PointPair[]): Homography {
  const n = pairs.length;
  const [mx, my, mu, mv] = [0, 1, 2, 3].map((k) => pairs.reduce((sum, pair) => sum + pair[k], 0) / n);
  let [c, s, length] = [0, 0, 0];
  for (const [x, y, u, v] of pairs) {
    const [dx, dy, du, dv] = [x - mx, y - my, u - mu, v - mv];
    c += dx * du + dy * dv;
    s += dx * dv - dy * du;
    length += dx * dx + dy * dy;
  }
  [c, s] = [c / length, s / length];
  return [c, -s, mu - c * mx + s * my, s, c, mv - s * mx - c * my, 0, 0, 1];
}

function matched(first: readonly Corner[], second: readonly Corner[]): PointPair[] {
  const size = PATCH * PATCH;
  const best = first.map(() => ({ at: -1, like: -1, next: -1 }));
  const back = second.map(() => ({ at: -1, like: -1 }));
  for (let i = 0; i < first.length; i++)
    for (let j = 0; j < second.length; j++) {
      const [a, b] = [first[i].patch, second[j].patch];
      let like = 0;
      for (let k = 0; k < size; k++) like += a[k] * b[k];
      const own = best[i];
      if (like > own.like) {
        // The same corner at another size is no rival.
        const rival =
          own.at >= 0 && Math.hypot(second[own.at].x - second[j].x, second[own.at].y - second[j].y) > WITHIN;
        best[i] = { at: j, like, next: rival ? own.like : own.next };
      } else if (like > own.next && Math.hypot(second[own.at].x - second[j].x, second[own.at].y - second[j].y) > WITHIN)
        own.next = like;
      if (like > back[j].like) back[j] = { at: i, like };
    }
  return best.flatMap(({ at, like, next }, i): PointPair[] =>
    at >= 0 && back[at].at === i && like > LEAST_LIKE && like > next + CLEARLY_BEST
      ? [[first[i].x, first[i].y, second[at].x, second[at].y]]
      : [],
  );
}

export type { Corner };
