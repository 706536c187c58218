/**
 * Lays one picture of an ordinary scene on another: corners to start, then least squares on local contrast of log light (Lucas & Kanade
 * 1981; inverse compositional form of Baker & Matthews, IJCV 56 (2004) 221–255), coarse to fine, robustly, to a homography. Exposure and
 * the fall of light over the frame leave no trace in local contrast. What doesn't fit is told, never forced.
 */
import { median } from '../numbers';
import { solveLinear } from '../uncertainty/leastSquares';
import { featuresOf, similarityBetween, type Corner } from './features';
import { applyHomography, composeHomographies, invertHomography, NO_MOVE, type Homography } from './homography';
import { boxBlur, halved, type Preview } from './preview';

/** A picture made ready for laying: local contrast at several sizes, finest first. */
export interface LayView {
  levels: Preview[];
  /** Corners of a middle size, found when they are asked for. */
  corners: () => readonly Corner[];
}

export interface Laid {
  /** From the first picture's points to the second's. */
  homography: Homography;
  /** Standard uncertainty of where points land, root mean square over the frame, pixels of a frame of the first's full width. */
  errorPx: number;
  /** Share of the blocks with something to see in which both show the same. */
  agreement: number;
  /** Correlation of local contrast over all of both. */
  correlation: number;
  /** Share of the first frame that the second shows. */
  overlap: number;
  /** Per block of the first frame: correlation, or null where there is nothing to see or nothing of the second. */
  blocks: (number | null)[];
}

export type LayResult = { laid: Laid } | { words: string };

export const BLOCKS_ACROSS = 12;
export const BLOCKS_DOWN = 8;
const SMALLEST_PX = 50;
/** Light below this share of the mean tells little and is held down. */
const FLOOR = 0.02;
/** Pixels looked at in a round, at most: at the finest size, and on the way to it. */
const MOST_PIXELS = { finest: 24_000, coarser: 10_000 };
const ROUNDS = { finest: 25, coarser: 10 };
/** Still moving by more than this after all rounds, pixels of its size, it has found no place. */
const RESTLESS = 0.05;
/** A step smaller than this, pixels of its size, is the last one. */
const LAST_STEP = { finest: 0.008, coarser: 0.04 };
/** Differences beyond this many scales have no say (Tukey's biweight). */
const REJECTED = 4.7;
/** Blocks show the same from this correlation on. */
const BLOCK_LIKE = 0.45;
/** Least share of agreeing blocks, least number of them, least overlap. Our own judgement. */
const LEAST_AGREEMENT = 0.56;
/** Below this share in the coarse a place is given up. */
const HOPELESS = 0.3;
/** Share of agreeing blocks from which no other way needs to be tried. */
const CLEARLY = 0.8;
const FEWEST_BLOCKS = 5;
const LEAST_OVERLAP = 0.25;
/** Two looks from nearly one place differ in perspective by less than this, per half width: what bends further is forced. */
const MOST_PERSPECTIVE = 0.03;
/** Root mean square of local contrast (stops) below which a block has nothing to see. */
const LEAST_CONTRAST = 0.03;
/** Laid worse than this, pixels of the full frame's width over 1920, isn't laid. */
const WORST_ERROR = 1;

/**
 * @param luminance linear light of a picture, no unit
 */
export function prepareLay(luminance: Float32Array, width: number, height: number, cellPx: number): LayView {
  let light: Preview = { width, height, cellPx, data: luminance };
  const levels: Preview[] = [];
  for (; light.width >= SMALLEST_PX && light.height >= 24; light = halved(light)) levels.push(contrastOf(light));
  let corners: Corner[] | null = null;
  const middle = levels.find((level) => level.width <= 500) ?? levels[levels.length - 1];
  return { levels, corners: () => (corners ??= middle ? featuresOf(middle) : []) };
}

/** Log light above its surroundings, stops. */
function contrastOf({ width, height, cellPx, data }: Preview): Preview {
  let mean = 0;
  for (const value of data) mean += value / data.length;
  const floor = FLOOR * mean + 1e-9;
  const log = new Float32Array(data.length);
  for (let i = 0; i < data.length; i++) log[i] = Math.log2(Math.max(0, data[i]) + floor);
  const radius = Math.max(3, Math.round(width / 20));
  const smooth = boxBlur(boxBlur(log, width, height, radius), width, height, radius);
  for (let i = 0; i < log.length; i++) log[i] -= smooth[i];
  return { width, height, cellPx, data: log };
}

/**
 * Lays the second picture on the first.
 *
 * @param start where the search begins; corners are tried where that leads nowhere
 */
export function layOn(first: LayView, second: LayView, start: Homography = NO_MOVE): LayResult {
  if (first.levels.length === 0 || second.levels.length === 0)
    return { words: 'the pictures are too small to be laid on each other' };
  const near = tryFrom(first, second, start, true);
  if (near && isSound(near) && near.agreement > CLEARLY) return { laid: near };
  const found = similarityBetween(first.corners(), second.corners());
  const far = found && tryFrom(first, second, found, false);
  const best = [near, far].filter((one) => one !== null).sort((a, b) => b.agreement - a.agreement)[0];
  if (best && isSound(best)) return { laid: best };
  const bare = likenessOf(first.levels, NO_MOVE, first.levels).blocks.filter((one) => one !== null).length;
  if (bare < FEWEST_BLOCKS) return { words: 'there is too little to see in it that could be laid on anything' };
  if (best && best.overlap < LEAST_OVERLAP) return { words: 'the two show hardly anything in common' };
  return { words: 'the two do not show the same view' };
}

function isSound({ agreement, overlap, errorPx, blocks, homography }: Laid): boolean {
  const seen = blocks.filter((one) => one !== null && one > BLOCK_LIKE).length;
  const scale = Math.sqrt(Math.abs(homography[0] * homography[4] - homography[1] * homography[3]));
  return (
    agreement >= LEAST_AGREEMENT &&
    seen >= FEWEST_BLOCKS &&
    overlap >= LEAST_OVERLAP &&
    errorPx < WORST_ERROR &&
    Math.hypot(homography[6], homography[7]) < MOST_PERSPECTIVE &&
    scale > 0.4 &&
    scale < 2.5
  );
}

function tryFrom(first: LayView, second: LayView, start: Homography, fromCoarse: boolean): Laid | null {
  let homography = start;
  let error = Infinity;
  const count = Math.min(first.levels.length, second.levels.length);
  const from = fromCoarse
    ? count - 1
    : Math.max(
        0,
        first.levels.findIndex((level) => level.width <= 260),
      );
  for (let level = Math.min(count - 1, from < 0 ? count - 1 : from); level >= 0; level--) {
    const [a, b] = [first.levels[level], second.levels[level]];
    const found = refine(a, b, homography, a.width > 150 ? 8 : 4, level === 0 ? 'finest' : 'coarser');
    if (!found) return null;
    // A level that loses its hold (noise, at the finest) leaves what the coarser one found.
    if (!found.homography.every(Number.isFinite)) return null;
    homography = found.homography;
    error = found.error * (a.width / 2) * a.cellPx;
    // What has nothing in common in the coarse needn't be looked at finely.
    if (level > 0 && level === judgedLevel(first.levels)) {
      const { blocks, correlation } = likenessOf(first.levels, homography, second.levels);
      const share = agreementOf(blocks);
      if (share < HOPELESS) return { homography, errorPx: Infinity, agreement: share, correlation, overlap: 1, blocks };
    }
  }
  const { blocks, correlation } = likenessOf(first.levels, homography, second.levels);
  return {
    homography,
    errorPx: error,
    agreement: agreementOf(blocks),
    correlation,
    overlap: overlapOf(homography, first.levels[0].height / first.levels[0].width),
    blocks,
  };
}

/** Of the blocks with something to see, those in which both show the same. */
function agreementOf(blocks: readonly (number | null)[]): number {
  const seen = blocks.filter((one) => one !== null);
  return seen.length === 0 ? 0 : seen.filter((one) => one > BLOCK_LIKE).length / seen.length;
}

/** Noise is averaged down where likeness is judged. */
function judgedLevel(levels: readonly Preview[]): number {
  const at = levels.findIndex((level) => level.width <= 260);
  return at < 0 ? levels.length - 1 : at;
}

function overlapOf(h: Homography, aspect: number): number {
  let inside = 0;
  for (let j = 0; j < 12; j++)
    for (let i = 0; i < 12; i++) {
      const [u, v] = applyHomography(h, (i + 0.5) / 6 - 1, ((j + 0.5) / 6 - 1) * aspect);
      if (Math.abs(u) <= 1 && Math.abs(v) <= aspect) inside++;
    }
  return inside / 144;
}

/** Catmull–Rom between pixels, NaN within two pixels of the edge and beyond. */
export function cubicAt(
  { width, height, data }: Pick<Preview, 'width' | 'height' | 'data'>,
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

interface Samples {
  count: number;
  /** Places (half widths), values, steepest descents (eight a place). */
  x: Float64Array;
  y: Float64Array;
  value: Float64Array;
  descent: Float64Array;
}

/** Places of a picture that have a say, evenly strewn, with their rows of the normal equations: these belong to it and are kept. */
const sampled = new WeakMap<Preview, Map<number, Samples>>();

function samplesOf(view: Preview, parameters: 4 | 8, most: number): Samples {
  let known = sampled.get(view);
  if (!known) sampled.set(view, (known = new Map()));
  let samples = known.get(parameters);
  if (samples) return samples;
  const { width, height, data } = view;
  const edge = Math.max(2, Math.round(width / 40));
  const step = Math.max(1, Math.round(Math.sqrt((width * height) / most)));
  const room = Math.ceil(width / step) * Math.ceil(height / step);
  samples = {
    count: 0,
    x: new Float64Array(room),
    y: new Float64Array(room),
    value: new Float64Array(room),
    descent: new Float64Array(room * parameters),
  };
  const half = width / 2;
  let n = 0;
  for (let py = edge; py < height - edge; py += step)
    for (let px = edge; px < width - edge; px += step) {
      const i = py * width + px;
      const gx = ((data[i + 1] - data[i - 1]) / 2) * half;
      const gy = ((data[i + width] - data[i - width]) / 2) * half;
      const [x, y] = [(px + 0.5 - half) / half, (py + 0.5 - height / 2) / half];
      samples.x[n] = x;
      samples.y[n] = y;
      samples.value[n] = data[i];
      const at = n * parameters;
      const row =
        parameters === 4
          ? [gx * x + gy * y, gy * x - gx * y, gx, gy]
          : [gx * x, gx * y, gx, gy * x, gy * y, gy, -(gx * x + gy * y) * x, -(gx * x + gy * y) * y];
      for (let k = 0; k < parameters; k++) samples.descent[at + k] = row[k];
      n++;
    }
  samples.count = n;
  known.set(parameters, samples);
  return samples;
}

/** Improves a homography on one size; its own uncertainty in half widths. `null` where nothing holds. */
function refine(
  first: Preview,
  second: Preview,
  start: Homography,
  parameters: 4 | 8,
  size: 'finest' | 'coarser',
): { homography: Homography; error: number } | null {
  const samples = samplesOf(first, parameters, MOST_PIXELS[size]);
  const { count, value, descent } = samples;
  const half = second.width / 2;
  const seen = new Float64Array(count);
  let h = start;
  let [scale, gain] = [Infinity, 1];
  let normal: number[][] = [];
  let variance = 0;
  let used = 0;
  let last = 0;
  const gradient = new Float64Array(parameters);
  const upper = new Float64Array((parameters * (parameters + 1)) / 2);
  for (let round = 0; round < ROUNDS[size]; round++) {
    const inside = warpInto(seen, second, h, samples);
    let aa = 0;
    let ab = 0;
    const sizes: number[] = [];
    for (let i = 0; i < count; i++) {
      const own = seen[i];
      if (own !== own) continue;
      const off = gain * own - value[i];
      if (scale !== Infinity && Math.abs(off) > REJECTED * scale) continue;
      aa += value[i] * value[i];
      ab += value[i] * own;
    }
    if (inside < 200 || !(ab > 0)) return null;
    // Noise and blur change how strong contrast comes out.
    gain = Math.min(3, Math.max(0.33, aa / ab));
    for (let i = 0; i < count; i += 11) if (seen[i] === seen[i]) sizes.push(Math.abs(gain * seen[i] - value[i]));
    scale = Math.max(0.004, 1.4826 * median(sizes));
    gradient.fill(0);
    upper.fill(0);
    variance = 0;
    used = 0;
    const reach = 1 / (REJECTED * scale);
    for (let i = 0, at = 0; i < count; i++, at += parameters) {
      const own = seen[i];
      if (own !== own) continue;
      const difference = gain * own - value[i];
      const t = difference * reach;
      if (t * t >= 1) continue;
      const weight = (1 - t * t) * (1 - t * t);
      for (let k = 0, slot = 0; k < parameters; k++) {
        const part = weight * descent[at + k];
        gradient[k] += part * difference;
        for (let l = k; l < parameters; l++, slot++) upper[slot] += part * descent[at + l];
      }
      variance += weight * difference * difference;
      used += weight;
    }
    normal = Array.from({ length: parameters }, () => new Array<number>(parameters).fill(0));
    for (let k = 0, slot = 0; k < parameters; k++)
      for (let l = k; l < parameters; l++, slot++) normal[k][l] = normal[l][k] = upper[slot];
    const trace = normal.reduce((sum, row, k) => sum + row[k], 0);
    for (let k = 0; k < parameters; k++) normal[k][k] += 1e-6 * trace;
    const step = solveLinear(normal, Array.from(gradient));
    if (!step) return null;
    h = composeHomographies(h, invertHomography(stepOf(step)));
    if (!h.every(Number.isFinite)) return null;
    last = Math.max(...step.map(Math.abs));
    if (last * half < LAST_STEP[size]) break;
  }
  if (size === 'finest' && last * half > RESTLESS) return null;
  // Where it was still moving it isn't surer than its last step.
  const error = Math.hypot(last, placeError(normal, variance / Math.max(1, used), parameters, first));
  return { homography: h, error };
}

/** Values of a view where a homography takes the samples, NaN outside; how many lie inside. */
function warpInto(seen: Float64Array, view: Preview, h: Homography, { count, x: xs, y: ys }: Samples): number {
  const half = view.width / 2;
  const halfHeight = view.height / 2;
  const [h0, h1, h2, h3, h4, h5, h6, h7] = h;
  let inside = 0;
  for (let i = 0; i < count; i++) {
    const x = xs[i];
    const y = ys[i];
    const scale = half / (h6 * x + h7 * y + 1);
    const own = cubicAt(
      view,
      (h0 * x + h1 * y + h2) * scale + half - 0.5,
      (h3 * x + h4 * y + h5) * scale + halfHeight - 0.5,
    );
    seen[i] = own;
    if (own === own) inside++;
  }
  return inside;
}

function stepOf(step: readonly number[]): Homography {
  if (step.length === 4) {
    const [a, b, dx, dy] = step;
    return [1 + a, -b, dx, b, 1 + a, dy, 0, 0, 1];
  }
  return [1 + step[0], step[1], step[2], step[3], 1 + step[4], step[5], step[6], step[7], 1];
}

/** Standard uncertainty of where points land, half widths: what the residuals leave open, by the normal equations. */
function placeError(normal: number[][], variance: number, parameters: number, { width, height }: Preview): number {
  let sum = 0;
  let n = 0;
  for (let j = -1; j <= 1; j++)
    for (let i = -1; i <= 1; i++) {
      const [x, y] = [0.8 * i, (0.8 * j * height) / width];
      const rows =
        parameters === 4
          ? [[x, -y, 1, 0], [y, x, 0, 1]]
          : [[x, y, 1, 0, 0, 0, -x * x, -x * y], [0, 0, 0, x, y, 1, -x * y, -y * y]]; // prettier-ignore
      for (const row of rows) {
        const solved = solveLinear(normal, row);
        if (!solved) return Infinity;
        sum += row.reduce((total, value, k) => total + value * solved[k], 0) * variance;
      }
      n++;
    }
  // Neighboring residuals are alike (codec, interpolation): four pixels tell as much as one.
  return Math.sqrt((4 * sum) / n);
}

/** Likeness of the two, block by block of the first frame and over all of it. */
function likenessOf(
  firsts: readonly Preview[],
  h: Homography,
  seconds: readonly Preview[],
): { blocks: (number | null)[]; correlation: number } {
  const level = Math.min(judgedLevel(firsts), seconds.length - 1);
  const [first, second] = [firsts[level], seconds[level]];
  const { width, height, data } = first;
  const half = width / 2;
  const count = BLOCKS_ACROSS * BLOCKS_DOWN;
  const [n, sa, sb, saa, sbb, sab, all] = Array.from({ length: 7 }, () => new Float64Array(count));
  const blockOfColumn = Int32Array.from({ length: width }, (_, x) => Math.floor((x * BLOCKS_ACROSS) / width));
  for (let py = 0; py < height; py++) {
    const y = (py + 0.5 - height / 2) / half;
    const row = Math.floor((py * BLOCKS_DOWN) / height) * BLOCKS_ACROSS;
    for (let px = 0; px < width; px++) {
      const x = (px + 0.5 - half) / half;
      const scale = half / (h[6] * x + h[7] * y + 1);
      const u = (h[0] * x + h[1] * y + h[2]) * scale + half - 0.5;
      const v = (h[3] * x + h[4] * y + h[5]) * scale + height / 2 - 0.5;
      const block = row + blockOfColumn[px];
      all[block]++;
      const b = cubicAt(second, u, v);
      if (b !== b) continue;
      const a = data[py * width + px];
      n[block]++;
      sa[block] += a;
      sb[block] += b;
      saa[block] += a * a;
      sbb[block] += b * b;
      sab[block] += a * b;
    }
  }
  const total = (sums: Float64Array) => sums.reduce((sum, one) => sum + one, 0);
  const power = total(saa) * total(sbb);
  return {
    correlation: power > 0 ? total(sab) / Math.sqrt(power) : 0,
    blocks: Array.from(n, (seen, i) => {
      if (seen < 0.6 * all[i]) return null;
      const va = saa[i] / seen - (sa[i] / seen) ** 2;
      const vb = sbb[i] / seen - (sb[i] / seen) ** 2;
      if (!(Math.max(va, vb) > LEAST_CONTRAST ** 2)) return null;
      return (sab[i] / seen - (sa[i] / seen) * (sb[i] / seen)) / Math.sqrt(Math.max(va * vb, 1e-18));
    }),
  };
}
