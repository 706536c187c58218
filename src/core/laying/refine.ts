/**
 * Improves a homography between two views by least squares on their values, robustly (Lucas & Kanade 1981; inverse compositional form of
 * Baker & Matthews, IJCV 56 (2004) 221–255).
 */
import { cubicAt } from '../formulas/spectra/cubic';
import { median } from '../formulas/statistics/averages';
import { solveLinear } from '../formulas/statistics/leastSquares';
import { composeHomographies, invertHomography, type Homography } from '../formulas/geometry/homography';
import { addGradient, addProducts, type Rows } from './normalEquations';
import type { Preview } from './preview';

/** Pixels looked at in a round, at most: at the finest size, and on the way to it. */
const MOST_PIXELS = { finest: 24_000, coarser: 10_000 };
const ROUNDS = { finest: 25, coarser: 10 };
/** After the first few, the normal equations are made anew every so many rounds. */
const RENEWED = 4;
/** Still moving by more than this after all rounds, pixels of its size, it has found no place. */
const RESTLESS = 0.05;
/** A step smaller than this, pixels of its size, is the last one. */
const LAST_STEP = { finest: 0.008, coarser: 0.04 };
/** After so many rounds a step that hasn't halved since as many rounds ago, and is larger than this, pixels, leads nowhere. */
const PATIENCE = 6;
const ASTRAY = 0.1;
/** Differences beyond this many scales have no say (Tukey's biweight). */
const REJECTED = 4.7;

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
export function refine(
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
  let gain = 1;
  // In the first round nothing is known of the spread, and all have a say.
  let farthest = Infinity;
  let normal: number[][] = [];
  let variance = 0;
  let used = 0;
  let last = 0;
  const steps: number[] = [];
  const gradient = new Float64Array(parameters);
  const upper = new Float64Array((parameters * (parameters + 1)) / 2);
  const [weights, residuals] = [new Float64Array(count), new Float64Array(count)];
  const rows: Rows = { count, parameters, derivatives: descent, weights, residuals };
  for (let round = 0; round < ROUNDS[size]; round++) {
    const inside = warpInto(seen, second, h, samples);
    let aa = 0;
    let ab = 0;
    const sizes: number[] = [];
    for (let i = 0; i < count; i++) {
      const own = seen[i];
      if (own !== own) continue;
      if (Math.abs(gain * own - value[i]) > farthest) continue;
      aa += value[i] * value[i];
      ab += value[i] * own;
    }
    if (inside < 200 || !(ab > 0)) return null;
    // Noise and blur change how strong contrast comes out.
    gain = Math.min(3, Math.max(0.33, aa / ab));
    for (let i = 0; i < count; i += 11) if (seen[i] === seen[i]) sizes.push(Math.abs(gain * seen[i] - value[i]));
    farthest = REJECTED * Math.max(0.004, 1.4826 * median(sizes));
    // Weights hardly change from round to round: the normal equations of a while ago still lead downhill.
    const isFresh = round < 3 || round % RENEWED === 0;
    variance = 0;
    used = 0;
    const reach = 1 / farthest;
    for (let i = 0; i < count; i++) {
      const own = seen[i];
      const difference = gain * own - value[i];
      const t = difference * reach;
      // What lies outside is no number, and has no say either.
      if (!(t * t < 1)) {
        weights[i] = residuals[i] = 0;
        continue;
      }
      const weight = (1 - t * t) * (1 - t * t);
      weights[i] = weight;
      residuals[i] = difference;
      variance += weight * difference * difference;
      used += weight;
    }
    gradient.fill(0);
    addGradient(gradient, rows);
    if (isFresh) addProducts(upper.fill(0), rows);
    normal = steadied(upper, parameters);
    const step = solveLinear(normal, Array.from(gradient));
    if (!step) return null;
    h = composeHomographies(h, invertHomography(stepOf(step)));
    if (!h.every(Number.isFinite)) return null;
    last = Math.max(...step.map(Math.abs));
    if (last * half < LAST_STEP[size]) break;
    steps.push(last);
    if (size === 'finest' && round >= PATIENCE && last * half > ASTRAY && last > steps[round - PATIENCE] / 2)
      return null;
  }
  if (size === 'finest' && last * half > RESTLESS) return null;
  // Where it was still moving it isn't surer than its last step.
  const error = Math.hypot(last, placeError(normal, variance / Math.max(1, used), parameters, first));
  return { homography: h, error };
}

/** The whole matrix from its upper half, row by row, its diagonal raised a little so that it can be inverted. */
function steadied(upper: Float64Array, size: number): number[][] {
  const matrix = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  for (let k = 0, slot = 0; k < size; k++)
    for (let l = k; l < size; l++, slot++) matrix[k][l] = matrix[l][k] = upper[slot];
  const trace = matrix.reduce((sum, row, k) => sum + row[k], 0);
  for (let k = 0; k < size; k++) matrix[k][k] += 1e-6 * trace;
  return matrix;
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
