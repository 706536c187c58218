/**
 * The unknown part of a camera's curve as a function of light: η(Λ), in stops, with Λ = log2 of light and 0 at full scale. Values at
 * knots every half stop, cubic between; its slope is a Gaussian process a priori.
 *
 * A function of light and not of the code: noise is in the code, and a curve fitted the other way round flattens until it
 * takes noise for signal (errors in variables).
 */

/** Darkest light that the curve is told for, and the distance of its knots, in stops. */
export const DARKEST = -13;
export const KNOT_STEP = 0.5;
/** Knots from full scale down. */
export const KNOTS = Math.round(-DARKEST / KNOT_STEP) + 1;

/** Unknowns of a curve: what is common to the channels, then each channel's own departures. */
export const CURVES = 4 * KNOTS;

/** Of the slope's variance: what is common to all (a plain gamma), what varies over a few stops, and what
 * bends within one, as shoulders do. */
const COMMON = 0.33;
const VARYING = { share: 0.55, reach: 2 };
const QUICK = { share: 0.12, reach: 0.8 };
/** Highlights are pressed together within half a stop, by shoulders and by what is near clipping: slope there, dying away below white. */
const KNEE = { share: 1.5, depth: 0.7, reach: 0.4 };
/**
 * Standard deviation of the whole curve's offset, in those of its slope. How bright full scale is, places of unknown light can't tell:
 * anchored there, a smooth prior would foretell the knee near white from the curve below it, and push all light aside where it is wrong.
 */
const OFFSET = 1.5;
/** Steps a knot interval in the integral of the slope's covariance. */
const FINE = 4;

/** Four neighboring knots with their shares of the value at a light. */
export interface Basis {
  first: number;
  values: readonly [number, number, number, number];
  /** Shares of the slope there, a stop. */
  slopes: readonly [number, number, number, number];
}

/** Cubic through the four nearest knots; straight beyond the darkest and above full scale. */
export function basisAt(light: number): Basis {
  const at = light / -KNOT_STEP;
  const inside = Math.min(KNOTS - 1, Math.max(0, at));
  const first = Math.min(KNOTS - 4, Math.max(0, Math.floor(inside) - 1));
  const t = inside - first;
  const values = lagrange(t);
  const slopes = lagrangeSlopes(t);
  if (at === inside) return { first, values, slopes };
  const beyond = light - inside * -KNOT_STEP;
  return { first, values: values.map((value, i) => value + beyond * slopes[i]) as unknown as Basis['values'], slopes };
}

/** Lagrange's polynomials through 0, 1, 2, 3, and their slopes a stop: knots go down in light. */
function lagrange(t: number): Basis['values'] {
  const [a, b, c] = [t - 1, t - 2, t - 3];
  return [(-a * b * c) / 6, (t * b * c) / 2, (-t * a * c) / 2, (t * a * b) / 6];
}

function lagrangeSlopes(t: number): Basis['values'] {
  const [a, b, c] = [t - 1, t - 2, t - 3];
  return [
    -(b * c + a * c + a * b) / 6 / -KNOT_STEP,
    (b * c + t * c + t * b) / 2 / -KNOT_STEP,
    -(a * c + t * c + t * a) / 2 / -KNOT_STEP,
    (a * b + t * b + t * a) / 6 / -KNOT_STEP,
  ];
}

/**
 * Covariance of η at the knots for a slope of this standard deviation (stops a stop): the integral of the slope's covariance
 * σ²·(0.33 + 0.55·exp(−Δ²/8) + 0.12·exp(−Δ²/1.28)) from full scale down,
 * a knee near white and an offset.
 */
export function priorCovariance(sigma: number): Float64Array {
  const steps = (KNOTS - 1) * FINE;
  const h = KNOT_STEP / FINE;
  const kernel = Float64Array.from(
    { length: steps },
    (_, i) =>
      COMMON +
      VARYING.share * Math.exp(-((i * h) ** 2) / (2 * VARYING.reach ** 2)) +
      QUICK.share * Math.exp(-((i * h) ** 2) / (2 * QUICK.reach ** 2)),
  );
  // Sums over all fine cells up to both knots, by the rule of the rectangle's corners.
  const sums = new Float64Array((steps + 1) ** 2);
  const width = steps + 1;
  // From the middle of a cell, stops below white.
  const near = Float64Array.from({ length: steps }, (_, i) => Math.exp(-((((i + 0.5) * h) / KNEE.depth) ** 2) / 2));
  const knee = (i: number, j: number) =>
    KNEE.share * near[i - 1] * near[j - 1] * Math.exp(-(((i - j) * h) ** 2) / (2 * KNEE.reach ** 2));
  for (let i = 1; i <= steps; i++)
    for (let j = 1; j <= steps; j++)
      sums[i * width + j] =
        kernel[Math.abs(i - j)] +
        knee(i, j) +
        sums[(i - 1) * width + j] +
        sums[i * width + j - 1] -
        sums[(i - 1) * width + j - 1];
  const covariance = new Float64Array(KNOTS * KNOTS);
  for (let a = 0; a < KNOTS; a++)
    for (let b = 0; b < KNOTS; b++)
      covariance[a * KNOTS + b] = sigma * sigma * (OFFSET ** 2 + h * h * sums[a * FINE * width + b * FINE]);
  return covariance;
}

/** η and its slope at a light, of values at the knots. */
export const etaAt = (knots: ArrayLike<number>, light: number, offset = 0): { value: number; slope: number } =>
  etaOf(knots, basisAt(light), offset);

/** The same where the knots beside the light are known. */
export function etaOf(
  knots: ArrayLike<number>,
  { first, values, slopes }: Basis,
  offset = 0,
): { value: number; slope: number } {
  let [value, slope] = [0, 0];
  for (let k = 0; k < 4; k++) {
    value += values[k] * knots[offset + first + k];
    slope += slopes[k] * knots[offset + first + k];
  }
  return { value, slope };
}
