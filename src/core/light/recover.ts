/**
 * The camera's response recovered from a bracket: bare pictures of one scene at known exposures.
 *
 * log2 L(code) is a guess (gamma 2.2) plus a cubic B-spline in the code's logit, chosen by least squares so that every place
 * of the scene keeps one light over all exposures (Debevec & Malik, SIGGRAPH 1997, in its linear form, with the places'
 * light eliminated). Means are taken on linear light with the current curve and the fit is repeated, so that noise and
 * texture inside a place do not bend the curve.
 */
import { solveLinear } from '../uncertainty/leastSquares';

/** Codes of one place in one exposure, one channel. */
export interface BracketSample {
  place: number;
  /** log2 of t·ISO/N². */
  exposureLog2: number;
  codes: Uint8Array | Uint16Array;
}

export interface RecoveredCurve {
  /** log2 of relative light for codes 0…1. Rises with the code. */
  logLight: (code: number) => number;
  /** Weighted root mean square of what the fit leaves, in stops. */
  residualStops: number;
  /** Standard uncertainty, in stops, of the light ratio between two codes. */
  between: (first: number, second: number) => number;
  /** Codes (shares of full scale) that the bracket reaches. */
  range: [number, number];
}

const KNOTS = 40;
const ROUNDS = 6;
const FEWEST_SAMPLES = 60;
const SMOOTHNESS = 2e-3;
/**
 * The fit's own covariance doesn't know the ripple that exposures whole stops apart can't show. Over simulated brackets errors
 * come out two and a half times as large as it says.
 */
const UNSEEN_RIPPLE = 2.5;
const LOWEST = 0.004;
const HIGHEST = 1.03;

/** Logit-like coordinate: responses bend most near black and near white, and knots lie densest there. */
function coordinate(code: number): number {
  return Math.log2((code + LOWEST) / (HIGHEST - code));
}
const START = coordinate(0);
const SPAN = coordinate(1) - START;

/** Index of the first of the four cubic B-splines at a code, and their values. */
function splines(code: number): [number, [number, number, number, number]] {
  const at = ((coordinate(Math.min(1, Math.max(0, code))) - START) / SPAN) * (KNOTS - 3);
  const first = Math.min(KNOTS - 4, Math.floor(at));
  const t = at - first;
  const [t2, t3] = [t * t, t * t * t];
  return [first, [(1 - 3 * t + 3 * t2 - t3) / 6, (4 - 6 * t2 + 3 * t3) / 6, (1 + 3 * t + 3 * t2 - 3 * t3) / 6, t3 / 6]];
}

/**
 * Recovers one channel's curve. `null` when the bracket is too small to tell: fewer than two exposures, or too few usable places.
 */
export function recoverCurve(samples: readonly BracketSample[], bitDepth: number): RecoveredCurve | null {
  const top = 2 ** bitDepth - 1;
  const usable = samples.filter(({ codes }) => isUsable(codes, top));
  const exposures = new Set(usable.map((sample) => Math.round(sample.exposureLog2 * 1000)));
  if (exposures.size < 2 || usable.length < FEWEST_SAMPLES) return null;
  const theta = new Float64Array(KNOTS);
  const codesOf = usable.map(({ codes }) => mean(codes) / top);
  let fit: Fit | null = null;
  for (let round = 0; round < ROUNDS; round++) {
    const table = Float64Array.from({ length: top + 1 }, (_, code) => 2 ** logLightAt(theta, code / top));
    fit = fitOnce(usable, codesOf, table, theta);
    if (!fit) return null;
    for (let k = 0; k < KNOTS; k++) theta[k] += fit.step[k];
  }
  const { normal, residual } = fit!;
  const rising = risingTable((code) => logLightAt(theta, code));
  return {
    logLight: rising,
    residualStops: residual,
    range: [Math.min(...codesOf), Math.max(...codesOf)],
    between(first, second) {
      const difference = new Array<number>(KNOTS).fill(0);
      const [i, a] = splines(first);
      const [j, b] = splines(second);
      a.forEach((value, k) => (difference[i + k] += value));
      b.forEach((value, k) => (difference[j + k] -= value));
      const solved = solveLinear(normal, difference);
      return solved
        ? UNSEEN_RIPPLE *
            Math.sqrt(
              Math.max(
                0,
                solved.reduce((sum, value, k) => sum + value * difference[k], 0),
              ) * fit!.scale,
            )
        : 0.1;
    },
  };
}

function logLightAt(theta: Float64Array, code: number): number {
  const [first, values] = splines(code);
  return 2.2 * Math.log2(Math.max(code, 1e-4)) + values.reduce((sum, value, k) => sum + value * theta[first + k], 0);
}

interface Fit {
  step: number[];
  normal: number[][];
  residual: number;
  scale: number;
}

function fitOnce(
  samples: readonly BracketSample[],
  codes: readonly number[],
  table: Float64Array,
  theta: Float64Array,
): Fit | null {
  const rows = samples.map((sample, i) => {
    const { light, u } = meanLight(sample.codes, table);
    return { place: sample.place, code: codes[i], y: Math.log2(light) - sample.exposureLog2, weight: 1 / (u * u) };
  });
  const places = new Map<number, typeof rows>();
  for (const row of rows) if (Number.isFinite(row.y)) places.set(row.place, [...(places.get(row.place) ?? []), row]);
  const normal = Array.from({ length: KNOTS }, () => new Array<number>(KNOTS).fill(0));
  const right = new Array<number>(KNOTS).fill(0);
  const seen = [...places.values()].filter((place) => place.length > 1);
  for (const place of seen) {
    const total = place.reduce((sum, row) => sum + row.weight, 0);
    const middle = new Array<number>(KNOTS).fill(0);
    const level = place.reduce((sum, row) => sum + row.weight * row.y, 0) / total;
    for (const row of place) {
      const [first, values] = splines(row.code);
      values.forEach((value, k) => (middle[first + k] += (row.weight * value) / total));
    }
    for (const row of place) {
      const [first, values] = splines(row.code);
      const line = middle.map((value) => -value);
      values.forEach((value, k) => (line[first + k] += value));
      const touched = line.flatMap((value, k) => (value === 0 ? [] : [k]));
      for (const a of touched) {
        right[a] -= row.weight * line[a] * (row.y - level);
        for (const b of touched) normal[a][b] += row.weight * line[a] * line[b];
      }
    }
  }
  // Exposures a whole number of stops apart say nothing of a ripple with that period, nor of codes between: the smoothest
  // curve is taken. Third differences leave straight and evenly bent stretches free; where there are data this weighs little.
  const smooth = (SMOOTHNESS * normal.reduce((sum, line, k) => sum + line[k], 0)) / KNOTS;
  const difference = [1, -3, 3, -1];
  for (let k = 0; k + 3 < KNOTS; k++) {
    const bend = difference.reduce((sum, value, i) => sum + value * theta[k + i], 0);
    difference.forEach((va, i) => {
      right[k + i] -= smooth * va * bend;
      difference.forEach((vb, j) => (normal[k + i][k + j] += smooth * va * vb));
    });
  }
  for (let k = 0; k < KNOTS; k++) normal[k][k] += 1e-6 * smooth + 1e-9;
  const step = solveLinear(normal, right);
  if (!step) return null;
  let [chi, weight, square, count] = [0, 0, 0, 0];
  for (const place of seen) {
    const fitted = place.map((row) => {
      const [first, values] = splines(row.code);
      return row.y + values.reduce((sum, value, k) => sum + value * step[first + k], 0);
    });
    const total = place.reduce((sum, row) => sum + row.weight, 0);
    const level = place.reduce((sum, row, i) => sum + row.weight * fitted[i], 0) / total;
    place.forEach((row, i) => {
      chi += row.weight * (fitted[i] - level) ** 2;
      square += row.weight * (fitted[i] - level) ** 2;
      weight += row.weight;
    });
    count += place.length - 1;
  }
  return { step, normal, residual: Math.sqrt(square / weight), scale: Math.max(1, chi / Math.max(1, count - KNOTS)) };
}

/** Mean linear light of a place and its relative uncertainty in stops, never below a thousandth. */
function meanLight(codes: Uint8Array | Uint16Array, table: Float64Array): { light: number; u: number } {
  let [sum, squares] = [0, 0];
  for (const code of codes) {
    sum += table[code];
    squares += table[code] ** 2;
  }
  const light = sum / codes.length;
  const spread = Math.sqrt(Math.max(0, squares / codes.length - light * light) / codes.length);
  return { light, u: Math.max(0.001, spread / light / Math.LN2) };
}

/** No pixel at either end, and enough codes above black to be no accident of rounding. */
function isUsable(codes: Uint8Array | Uint16Array, top: number): boolean {
  let [highest, lowest] = [0, top];
  for (const code of codes) {
    if (code > highest) highest = code;
    if (code < lowest) lowest = code;
  }
  return highest < 0.995 * top && lowest > 0.004 * top;
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

function mean(values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < values.length; i++) sum += values[i];
  return sum / values.length;
}
