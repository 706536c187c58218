/**
 * How a view moves from one frame to the next: shift and rotation of the whole frame, and of ten level bands of it, by least squares on
 * luma, coarse to fine (Lucas & Kanade 1981), robustly, so that what moves by itself has little say.
 */
import { cubicAt } from '../../formulas/spectra/cubic';
import { median } from '../../formulas/statistics/averages';
import { solveLinear } from '../../formulas/statistics/leastSquares';

/** Luma of a frame, small, 0–1. */
export interface GrayFrame {
  width: number;
  height: number;
  data: Float32Array;
}

/** What was at a point is now at the point plus this, in pixels of the small frame; rotation in radians about the center. */
export interface Shift {
  dx: number;
  dy: number;
  rotation: number;
}

export interface FrameMotion extends Shift {
  /** Shifts of the bands beyond the frame's own motion, from top to bottom; `null` where a band has nothing to tell. */
  bands: ({
    dx: number;
    dy: number;
    /** Product of its left half's shift and its right half's: noise, which the halves don't share, is not in its mean. */
    both: number;
  } | null)[];
  /** Correlation of the two frames once laid on each other. */
  correlation: number;
}

export const BANDS = 10;
/** Frames below this correlation show something else: a cut, a whip, a cover. Our own judgement. */
const LEAST_CORRELATION = 0.7;
const COARSEST_PX = 48;
/** Of the coarsest frame, how far a shift is looked for. */
const LARGEST_SHIFT = 0.3;
const ITERATIONS = 6;
/** Differences of half an eight-bit code are never outliers: a codec copies what stands still, and most of it doesn't differ at all. */
const LEAST_SCALE = 0.002;
/** A step smaller than this, pixels, is the last. */
const LAST_STEP = 5e-4;

function halved({ width, height, data }: GrayFrame): GrayFrame {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (data[i] + data[i + 1] + data[i + width] + data[i + width + 1]) / 4;
    }
  return { width: w, height: h, data: out };
}

/** A light blur (1, 2, 1 both ways): what is finer than two pixels can't be told between them. */
function softened({ width, height, data }: GrayFrame): GrayFrame {
  const across = new Float32Array(data.length);
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const last = row + width - 1;
    for (let i = row + 1; i < last; i++) across[i] = (data[i - 1] + 2 * data[i] + data[i + 1]) / 4;
    across[row] = (3 * data[row] + data[row + Math.min(1, width - 1)]) / 4;
    across[last] = (3 * data[last] + data[last - Math.min(1, width - 1)]) / 4;
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const up = y > 0 ? row - width : row;
    const down = y < height - 1 ? row + width : row;
    for (let x = 0; x < width; x++) out[row + x] = (across[up + x] + 2 * across[row + x] + across[down + x]) / 4;
  }
  return { width, height, data: out };
}

/** A frame with its coarser ones, finest first. */
export function pyramidOfFrame(frame: GrayFrame): GrayFrame[] {
  const levels = [softened(frame)];
  let below = frame;
  while (below.width > 2 * COARSEST_PX && below.height > COARSEST_PX) {
    below = halved(below);
    levels.push(softened(below));
  }
  return levels;
}

/** The shift by whole pixels under which two coarse frames differ least. */
function roughShift(first: GrayFrame, next: GrayFrame): Shift {
  const { width, height } = first;
  const [most, mostY] = [Math.floor(LARGEST_SHIFT * width), Math.floor(LARGEST_SHIFT * height)];
  let best: Shift = { dx: 0, dy: 0, rotation: 0 };
  let least = Infinity;
  for (let dy = -mostY; dy <= mostY; dy++)
    for (let dx = -most; dx <= most; dx++) {
      let [sum, count] = [0, 0];
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y += 2)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x += 2) {
          const difference = next.data[(y + dy) * width + x + dx] - first.data[y * width + x];
          sum += difference * difference;
          count++;
        }
      const mean = sum / count;
      if (mean < least) [least, best] = [mean, { dx, dy, rotation: 0 }];
    }
  return best;
}

/**
 * Improves a motion of a strip of rows.
 *
 * @param turns whether rotation is looked for too
 */
function refine(
  first: GrayFrame,
  next: GrayFrame,
  start: Shift,
  rows: readonly [number, number],
  columns: readonly [number, number],
  turns: boolean,
  step: number,
): { shift: Shift; hasStructure: boolean } {
  const { width, height, data } = first;
  const size = turns ? 3 : 2;
  const [top, bottom] = [Math.max(2, rows[0]), Math.min(height - 2, rows[1])];
  const [left, end] = [Math.max(2, columns[0]), Math.min(width - 2, columns[1])];
  const [middleX, middleY] = [(width - 1) / 2, (height - 1) / 2];
  let shift = start;
  let scale = Infinity;
  for (let round = 0; round < ITERATIONS; round++) {
    const [cos, sin] = [Math.cos(shift.rotation), Math.sin(shift.rotation)];
    let [nxx, nxy, nyy, nxr, nyr, nrr, rx, ry, rr] = [0, 0, 0, 0, 0, 0, 0, 0, 0];
    const residuals: number[] = [];
    let seen = 0;
    for (let y = top; y < bottom; y += step) {
      const v = y - middleY;
      for (let x = left; x < end; x += step) {
        const u = x - middleX;
        const value = cubicAt(next, cos * u - sin * v + middleX + shift.dx, sin * u + cos * v + middleY + shift.dy);
        if (value !== value) continue;
        const i = y * width + x;
        const difference = value - data[i];
        if (seen++ % 11 === 0) residuals.push(Math.abs(difference));
        const t = difference / (5 * scale);
        const weight = scale === Infinity ? 1 : Math.abs(t) >= 1 ? 0 : (1 - t * t) * (1 - t * t);
        if (weight === 0) continue;
        const gx = (data[i + 1] - data[i - 1]) / 2;
        const gy = (data[i + width] - data[i - width]) / 2;
        const gr = gy * u - gx * v;
        nxx += weight * gx * gx;
        nxy += weight * gx * gy;
        nyy += weight * gy * gy;
        nxr += weight * gx * gr;
        nyr += weight * gy * gr;
        nrr += weight * gr * gr;
        rx -= weight * gx * difference;
        ry -= weight * gy * difference;
        rr -= weight * gr * difference;
      }
    }
    const normal = [
      [nxx, nxy, nxr],
      [nxy, nyy, nyr],
      [nxr, nyr, nrr],
    ]
      .slice(0, size)
      .map((row) => row.slice(0, size));
    const right = [rx, ry, rr].slice(0, size);
    if (seen < 50) return { shift, hasStructure: false };
    scale = Math.max(LEAST_SCALE, 1.4826 * median(residuals));
    const trace = (normal[0][0] + normal[1][1]) / 2;
    const least = trace - Math.hypot((normal[0][0] - normal[1][1]) / 2, normal[0][1]);
    // Of one direction alone nothing is told of the other (the aperture problem).
    if (!(least > 1e-3 * trace) || !(least > seen * 1e-10)) return { shift, hasStructure: false };
    const found = solveLinear(normal, right);
    if (!found) return { shift, hasStructure: false };
    shift = {
      dx: shift.dx + found[0],
      dy: shift.dy + found[1],
      rotation: shift.rotation + (turns ? found[2] : 0),
    };
    if (Math.abs(found[0]) + Math.abs(found[1]) < LAST_STEP && round > 0) break;
  }
  return { shift, hasStructure: true };
}

function correlationOf(first: GrayFrame, next: GrayFrame, { dx, dy, rotation }: Shift): number {
  const [cos, sin] = [Math.cos(rotation), Math.sin(rotation)];
  const [middleX, middleY] = [(first.width - 1) / 2, (first.height - 1) / 2];
  let [n, sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0, 0];
  for (let y = 2; y < first.height - 2; y += 3)
    for (let x = 2; x < first.width - 2; x += 3) {
      const [u, v] = [x - middleX, y - middleY];
      const b = cubicAt(next, cos * u - sin * v + middleX + dx, sin * u + cos * v + middleY + dy);
      if (Number.isNaN(b)) continue;
      const a = first.data[y * first.width + x];
      n++;
      sa += a;
      sb += b;
      saa += a * a;
      sbb += b * b;
      sab += a * b;
    }
  const spread = Math.sqrt((saa - (sa * sa) / n) * (sbb - (sb * sb) / n));
  return spread > 0 ? (sab - (sa * sb) / n) / spread : 0;
}

/** Shift and turn between two frames of one size, each as {@link pyramidOfFrame}; `null` where they don't show the same, or nothing at all. */
export function shiftBetween(
  first: readonly GrayFrame[],
  next: readonly GrayFrame[],
): (Shift & { correlation: number }) | null {
  const coarsest = first.length - 1;
  let shift = roughShift(first[coarsest], next[coarsest]);
  for (let level = coarsest; level >= 0; level--) {
    const { height, width } = first[level];
    if (level < coarsest) shift = { dx: 2 * shift.dx, dy: 2 * shift.dy, rotation: shift.rotation };
    const step = width > 300 ? 3 : width > 150 ? 2 : 1;
    const found = refine(first[level], next[level], shift, [0, height], [0, width], true, step);
    if (!found.hasStructure && level === 0) return null;
    if (found.hasStructure) shift = found.shift;
  }
  const correlation = correlationOf(first[Math.min(1, coarsest)], next[Math.min(1, coarsest)], {
    ...shift,
    dx: shift.dx / (coarsest > 0 ? 2 : 1),
    dy: shift.dy / (coarsest > 0 ? 2 : 1),
  });
  return correlation < LEAST_CORRELATION ? null : { ...shift, correlation };
}

/** The motion between two frames, and of their bands beyond it; `null` as for {@link shiftBetween}. */
export function motionBetween(first: readonly GrayFrame[], next: readonly GrayFrame[]): FrameMotion | null {
  const shift = shiftBetween(first, next);
  if (!shift) return null;
  const [a, b] = [first[0], next[0]];
  const bands = Array.from({ length: BANDS }, (_, i) => {
    const rows = [Math.round((i * a.height) / BANDS), Math.round(((i + 1) * a.height) / BANDS)] as const;
    const halves = [
      [0, a.width >> 1],
      [a.width >> 1, a.width],
    ] as const;
    const [l, r] = halves.map((columns) => {
      const found = refine(a, b, shift, rows, columns, false, a.width > 300 ? 2 : 1);
      return found.hasStructure ? { dx: found.shift.dx - shift.dx, dy: found.shift.dy - shift.dy } : null;
    });
    return l && r ? { dx: (l.dx + r.dx) / 2, dy: (l.dy + r.dy) / 2, both: l.dx * r.dx + l.dy * r.dy } : null;
  });
  return { ...shift, bands };
}
