/**
 * The camera's response recovered from a bracket: bare pictures of one scene at known exposures.
 *
 * log2 L(code) is a cubic B-spline in the code's logit, chosen by least squares so that every place of the scene keeps one light
 * over all exposures (Debevec & Malik, SIGGRAPH 1997, in its linear form, with the places' light eliminated). Means are taken
 * on linear light with the current curve and the fit is repeated, so that noise and texture inside a place do not bend the
 * curve. Exposures whole stops apart can't show a ripple with that period: of all curves that fit, the one is taken that departs
 * most smoothly from a well-known shape.
 */
import { decodeBt709, decodeGamma, decodeLinear, decodeSrgb } from '../formulas/transfer/transfer';
import { fitLinear, solveLinear } from '../formulas/statistics/leastSquares';

/** Codes of one place in one exposure, one channel. */
export interface BracketSample {
  place: number;
  /** log2 of t·ISO/N². */
  exposureLog2: number;
  codes: Uint8Array | Uint16Array;
}

/** Σ factor · log2 light of a code: [[filtered, 1], [bare, −1]] is a light ratio. */
export type LogSum = readonly (readonly [code: number, factor: number])[];

export interface RecoveredCurve {
  /** log2 of relative light for codes 0…1. Rises with the code. */
  logLight: (code: number) => number;
  /** Weighted root mean square of what the fit leaves, in stops. */
  residualStops: number;
  /** Covariance, in stops², of the errors of two sums of log2 light. */
  covariance: (first: LogSum, second: LogSum) => number;
  /** Codes (shares of full scale) that the bracket reaches. */
  range: [number, number];
}

const KNOTS = 40;
const ROUNDS = 4;
const FEWEST_SAMPLES = 60;
/** Weights of smoothness that are tried, as shares of the data's weight, from the stiffest. */
const SMOOTHNESS = [1, 0.3, 0.1, 0.03, 0.01, 3e-3, 1e-3];
const FIRST_SMOOTHNESS = 3e-3;
/** A stiffer curve gives up parameters: χ² may rise by their number and five times its spread over the loosest one's. */
const CHI_ALLOWED = KNOTS + 5 * Math.sqrt(2 * KNOTS);
/** Three curves instead of one take up this many parameters; χ² must fall by far more before they are believed. */
const CHI_OF_CHANNELS = 2 * KNOTS + 5 * Math.sqrt(4 * KNOTS);
/**
 * The fit's own covariance doesn't know the ripple that exposures whole stops apart can't show. Over simulated brackets errors
 * come out up to twice as large as it says.
 */
const UNSEEN_RIPPLE = 2;
const LOWEST = 0.004;
const HIGHEST = 1.03;

/** Logit-like coordinate: responses bend most near black and near white, and knots lie densest there. */
function coordinate(code: number): number {
  return Math.log2((code + LOWEST) / (HIGHEST - code));
}
const START = coordinate(0);
const SPAN = coordinate(1) - START;

type Four = [number, number, number, number];

/** Index of the first of the four cubic B-splines at a code, and their values. */
function splines(code: number): [number, Four] {
  const at = ((coordinate(Math.min(1, Math.max(0, code))) - START) / SPAN) * (KNOTS - 3);
  const first = Math.min(KNOTS - 4, Math.floor(at));
  const t = at - first;
  const [t2, t3] = [t * t, t * t * t];
  return [first, [(1 - 3 * t + 3 * t2 - t3) / 6, (4 - 6 * t2 + 3 * t3) / 6, (1 + 3 * t + 3 * t2 - 3 * t3) / 6, t3 / 6]];
}

/** Spline coefficients of a straight line in the coordinate: an S-shaped curve. */
const STRAIGHT = Float64Array.from({ length: KNOTS }, (_, k) => START + ((k - 1) * SPAN) / (KNOTS - 3));

/** Spline coefficients of the shapes that files mostly have, by least squares over their codes. */
const SHAPES: readonly Float64Array[] = [
  STRAIGHT,
  ...[decodeSrgb, decodeBt709, decodeGamma(2.2), decodeLinear].map(shapeOf),
];

function shapeOf(decode: (code: number) => number): Float64Array {
  const codes = Array.from({ length: 400 }, (_, i) => {
    const level = 2 ** (START + 0.25 + ((SPAN - 0.25) * (i + 0.5)) / 400);
    return (HIGHEST * level - LOWEST) / (1 + level);
  });
  const basis = Array.from({ length: KNOTS }, () => new Float64Array(codes.length));
  codes.forEach((code, i) => {
    const [first, values] = splines(code);
    values.forEach((value, k) => (basis[first + k][i] = value));
  });
  const coefficients = fitLinear(
    basis.map((line) => [...line]),
    codes.map((code) => Math.log2(decode(code))),
  );
  return coefficients ? Float64Array.from(coefficients) : STRAIGHT;
}

/** A sample with its codes counted. */
interface Counted {
  place: number;
  exposureLog2: number;
  codes: Uint16Array;
  counts: Uint32Array;
  pixels: number;
  /** Mean code as a share of full scale, and the splines there. */
  code: number;
  first: number;
  values: Four;
}

/** A fitted curve as plain data, to be kept. */
export interface CurveFit {
  theta: Float64Array;
  /** Normal matrix with smoothness. */
  normal: number[][];
  residual: number;
  scale: number;
  range: [number, number];
}

/**
 * Recovers the curve of each channel; one curve for all where three fit no better. `null` when the bracket is too small to
 * tell: fewer than two exposures, or too few usable places.
 *
 * @param channels samples of each channel
 */
export function recoverCurves(
  channels: readonly (readonly BracketSample[])[],
  bitDepth: number,
): RecoveredCurve[] | null {
  const fits = fitCurves(channels, bitDepth);
  return fits && curvesOf(fits);
}

/** Curves of fits; channels that share a fit share the curve. */
export function curvesOf(fits: readonly CurveFit[]): RecoveredCurve[] {
  const made = new Map<CurveFit, RecoveredCurve>();
  return fits.map((fit) => {
    if (!made.has(fit)) made.set(fit, curveOf(fit));
    return made.get(fit)!;
  });
}

/** The fits behind {@link recoverCurves}; the same object where channels share a curve. */
export function fitCurves(channels: readonly (readonly BracketSample[])[], bitDepth: number): CurveFit[] | null {
  const top = 2 ** bitDepth - 1;
  const counted = channels.map((samples) => samples.flatMap((sample) => countCodes(sample, top) ?? []));
  const enough = counted.every(
    (samples) =>
      samples.length >= FEWEST_SAMPLES &&
      new Set(samples.map((sample) => Math.round(sample.exposureLog2 * 1000))).size >= 2,
  );
  if (!enough) return null;
  const common = fitCurve(counted, top, STRAIGHT, ROUNDS);
  if (!common) return null;
  const plain = ({ theta, normal, residual, scale }: Fit, samples: readonly Counted[]): CurveFit => ({
    theta,
    normal,
    residual,
    scale,
    range: [
      samples.reduce((low, one) => Math.min(low, one.code), 1),
      samples.reduce((high, one) => Math.max(high, one.code), 0),
    ],
  });
  if (channels.length > 1) {
    const own = counted.map((samples) => fitCurve([samples], top, common.theta, 2));
    const chi = own.reduce((sum, one) => sum + (one?.chi ?? Infinity), 0);
    const scale = Math.max(1e-12, common.chi / common.freedom);
    if ((common.chi - chi) / Math.min(1, scale) > CHI_OF_CHANNELS && common.chi > 1.02 * chi)
      return own.map((fit, c) => plain(fit!, counted[c]));
  }
  const shared = plain(common, counted.flat());
  return channels.map(() => shared);
}

function curveOf({ theta, normal, residual, scale, range }: CurveFit): RecoveredCurve {
  return {
    logLight: risingTable((code) => logLightAt(theta, code)),
    residualStops: residual,
    range,
    covariance(first, second) {
      const solved = solveLinear(normal, splineSum(first));
      if (!solved) return 0.01;
      const other = splineSum(second);
      return UNSEEN_RIPPLE ** 2 * scale * solved.reduce((sum, value, k) => sum + value * other[k], 0);
    },
  };
}

/** The same sum over spline coefficients. */
function splineSum(sum: LogSum): number[] {
  const total = new Array<number>(KNOTS).fill(0);
  for (const [code, factor] of sum) {
    const [first, values] = splines(code);
    values.forEach((value, k) => (total[first + k] += factor * value));
  }
  return total;
}

function logLightAt(theta: Float64Array, code: number): number {
  const [first, values] = splines(code);
  return values.reduce((sum, value, k) => sum + value * theta[first + k], 0);
}

interface Fit {
  theta: Float64Array;
  /** Normal matrix with smoothness. */
  normal: number[][];
  chi: number;
  freedom: number;
  residual: number;
  scale: number;
}

/** Fits one curve to channels that share it. */
function fitCurve(
  channels: readonly (readonly Counted[])[],
  top: number,
  start: Float64Array,
  rounds: number,
): Fit | null {
  let theta = start;
  for (let round = 0; ; round++) {
    const table = Float64Array.from({ length: top + 1 }, (_, code) => 2 ** logLightAt(theta, code / top));
    const equations = normalEquations(channels, table);
    if (equations.freedom < 10) return null;
    const last = round === rounds - 1;
    // A step too far bends the table that the next round's means are taken with: the scan waits for the end.
    const found = last ? stiffest(equations, theta) : solveSmooth(equations, theta, FIRST_SMOOTHNESS, STRAIGHT);
    if (!found) return null;
    theta = Float64Array.from(theta, (value, k) => value + found.step[k]);
    if (last)
      return {
        theta,
        normal: found.normal,
        chi: found.chi,
        freedom: equations.freedom,
        residual: Math.sqrt(found.chi / equations.weight),
        scale: Math.max(1, found.chi / equations.freedom),
      };
  }
}

/** χ²(step) = constant + 2·right·step + stepᵀ·normal·step, of the data alone. */
interface Equations {
  normal: number[][];
  right: number[];
  constant: number;
  weight: number;
  freedom: number;
}

function normalEquations(channels: readonly (readonly Counted[])[], table: Float64Array): Equations {
  const normal = Array.from({ length: KNOTS }, () => new Array<number>(KNOTS).fill(0));
  const right = new Array<number>(KNOTS).fill(0);
  let [constant, weight, freedom] = [0, 0, 0];
  for (const samples of channels) {
    const places = new Map<number, { sample: Counted; y: number; weight: number }[]>();
    for (const sample of samples) {
      const { light, u } = meanLight(sample, table);
      const y = Math.log2(light) - sample.exposureLog2;
      if (!Number.isFinite(y)) continue;
      const row = { sample, y, weight: 1 / (u * u) };
      const known = places.get(sample.place);
      if (known) known.push(row);
      else places.set(sample.place, [row]);
    }
    const line = new Float64Array(KNOTS);
    const middle = new Float64Array(KNOTS);
    for (const place of places.values()) {
      if (place.length < 2) continue;
      const total = place.reduce((sum, row) => sum + row.weight, 0);
      const level = place.reduce((sum, row) => sum + row.weight * row.y, 0) / total;
      middle.fill(0);
      for (const { sample, weight: w } of place)
        for (let k = 0; k < 4; k++) middle[sample.first + k] += (w * sample.values[k]) / total;
      const touched = [...middle.keys()].filter((k) => middle[k] !== 0);
      for (const row of place) {
        const { first, values } = row.sample;
        const off = row.y - level;
        constant += row.weight * off * off;
        weight += row.weight;
        for (const k of touched) line[k] = -middle[k];
        for (let k = 0; k < 4; k++) line[first + k] += values[k];
        for (const a of touched) {
          const scaled = row.weight * line[a];
          right[a] += scaled * off;
          const target = normal[a];
          for (const b of touched) target[b] += scaled * line[b];
        }
      }
      freedom += place.length - 1;
    }
  }
  return { normal, right, constant, weight, freedom: freedom - KNOTS };
}

interface Solved {
  step: number[];
  normal: number[][];
  chi: number;
}

const BEND = [1, -3, 3, -1];

/** The least-squares step; third differences of the departure from a shape are weighed in. */
function solveSmooth(
  equations: Equations,
  theta: Float64Array,
  smoothness: number,
  shape: Float64Array,
): Solved | null {
  const smooth = (smoothness * equations.normal.reduce((sum, line, k) => sum + line[k], 0)) / KNOTS;
  const normal = equations.normal.map((line) => [...line]);
  const right = equations.right.map((value) => -value);
  for (let k = 0; k + 3 < KNOTS; k++) {
    const bend = BEND.reduce((sum, value, i) => sum + value * (theta[k + i] - shape[k + i]), 0);
    BEND.forEach((va, i) => {
      right[k + i] -= smooth * va * bend;
      BEND.forEach((vb, j) => (normal[k + i][k + j] += smooth * va * vb));
    });
  }
  // The curve's level is free: any multiple of the light fits as well.
  for (let k = 0; k < KNOTS; k++) normal[k][k] += 1e-6 * smooth + 1e-9;
  const step = solveLinear(normal, right);
  if (!step) return null;
  let chi = equations.constant;
  for (let a = 0; a < KNOTS; a++) {
    chi += 2 * equations.right[a] * step[a];
    for (let b = 0; b < KNOTS; b++) chi += step[a] * equations.normal[a][b] * step[b];
  }
  return { step, normal, chi };
}

/** The stiffest curve that the data allow, by the shape that fits best at that stiffness. */
function stiffest(equations: Equations, theta: Float64Array): Solved | null {
  const loosest = solveSmooth(equations, theta, SMOOTHNESS[SMOOTHNESS.length - 1], STRAIGHT);
  if (!loosest) return null;
  const scale = Math.max(1e-12, loosest.chi / equations.freedom);
  for (const smoothness of SMOOTHNESS) {
    const [best] = SHAPES.flatMap((shape) => solveSmooth(equations, theta, smoothness, shape) ?? []).sort(
      (a, b) => a.chi - b.chi,
    );
    if (best && (best.chi - loosest.chi) / scale <= CHI_ALLOWED) return best;
  }
  return loosest;
}

/** Mean linear light of a place and its relative uncertainty in stops, never below a thousandth. */
function meanLight({ codes, counts, pixels }: Counted, table: Float64Array): { light: number; u: number } {
  let [sum, squares] = [0, 0];
  for (let i = 0; i < codes.length; i++) {
    const light = table[codes[i]];
    sum += counts[i] * light;
    squares += counts[i] * light * light;
  }
  const light = sum / pixels;
  const spread = Math.sqrt(Math.max(0, squares / pixels - light * light) / pixels);
  return { light, u: Math.max(0.001, spread / light / Math.LN2) };
}

/**
 * Counts codes; `null` for places too near either end. Nearness is judged by the mean and the spread, not by single pixels:
 * leaving out places for one unlucky pixel would favor those whose noise happened to be small.
 */
function countCodes({ place, exposureLog2, codes }: BracketSample, top: number): Counted | null {
  const histogram = new Map<number, number>();
  for (const code of codes) histogram.set(code, (histogram.get(code) ?? 0) + 1);
  const distinct = [...histogram.keys()];
  let [sum, squares] = [0, 0];
  for (const [code, count] of histogram) {
    sum += count * code;
    squares += count * code * code;
  }
  const mean = sum / codes.length;
  const spread = Math.sqrt(Math.max(0, squares / codes.length - mean * mean));
  if (mean + 4 * spread > 0.995 * top || mean - 3 * spread < 0.006 * top) return null;
  const [first, values] = splines(mean / top);
  return {
    place,
    exposureLog2,
    codes: Uint16Array.from(distinct),
    counts: Uint32Array.from(distinct, (code) => histogram.get(code)!),
    pixels: codes.length,
    code: mean / top,
    first,
    values,
  };
}

/** The curve as a table that never falls: where data are missing a spline may dip. */
function risingTable(curve: (code: number) => number): (code: number) => number {
  const steps = 4096;
  const values = Float64Array.from({ length: steps + 1 }, (_, i) => curve(i / steps));
  for (let i = 1; i <= steps; i++) values[i] = Math.max(values[i], values[i - 1] + 1e-9);
  return (code) => {
    const at = Math.min(steps - 1e-9, Math.max(0, code * steps));
    const index = Math.floor(at);
    // Near black the logarithm bends within a step: the formula itself is exact there.
    if (index < 40) return Math.min(curve(code), values[40]);
    return values[index] + (at - index) * (values[index + 1] - values[index]);
  };
}
