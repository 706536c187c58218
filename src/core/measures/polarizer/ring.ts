/**
 * A polarizer turned before polarized light: T(θ) = T_min + (T_max − T_min) cos²(θ − θ₀) (Malus; E. Hecht, Optics, chapter on
 * polarization), fitted to ratios filtered/bare as c₀ + c₁ cos 2θ + c₂ sin 2θ, which is linear.
 */
import { turned, wayBetween } from '../../formulas/geometry/angles';
import { solveLinear } from '../../formulas/statistics/leastSquares';

/** One ring angle. */
export interface RingPoint {
  degrees: number;
  /** Light filtered over bare, linear. */
  ratio: number;
  /** Standard uncertainty of the ratio by itself, relative. */
  relativeU: number;
}

/** Change of a figure for a stop more strength (less light) in each point, in the points’ order. */
export interface RingSensitivities {
  brightest: number[];
  darkest: number[];
  extinction: number[];
  /** Degrees. */
  axis: number[];
  /** Of the mean over all angles: what unpolarized light would give, in stops. */
  mean: number[];
}

export interface RingFit {
  /** Stops at the brightest and the darkest angle. `darkest` is Infinity where the fit passes below zero. */
  brightest: number;
  darkest: number;
  /** Stops of the mean over all angles. */
  mean: number;
  /** Ring angle of the brightest, in [0, 180). */
  axisDegrees: number;
  /** Ratio at any angle. */
  at(degrees: number): number;
  /** Root mean square departure of the points from the curve, in stops. */
  residualStops: number;
  /** χ² over the degrees of freedom, by the points' own uncertainties; NaN for three points. */
  reducedChi2: number;
  freedom: number;
  /**
   * What the points scatter by beyond their own uncertainties, where they do: ring angles that were read wrongly (standard
   * deviation in degrees) or light that flickered (relative), whichever explains the scatter better.
   */
  scatter: { cause: 'ring angles' | 'light'; size: number } | null;
  /** Standard uncertainty that the scatter gives each point, in stops. */
  scatterStops: number[];
  sensitivities: RingSensitivities;
}

/** Beyond this the points depart more than chance allows (one-sided 97.5 %, normal approximation). */
const significant = (reduced: number, freedom: number) => reduced > 1 + 2 * Math.sqrt(2 / freedom);

const radians = (degrees: number) => (degrees * Math.PI) / 180;
/** No point counts as better than this, relative: light and shutter are not. */
const LEAST_U = 1e-4;

/** How many different angles there are, modulo 180°, told apart by a degree. */
export function distinctAngles(degrees: readonly number[]): number {
  const sorted = degrees.map((one) => turned(one, 180)).sort((a, b) => a - b);
  const steps = sorted.filter((one, i) => (i === 0 ? one + 180 - sorted[sorted.length - 1] : one - sorted[i - 1]) >= 1);
  return Math.max(1, steps.length);
}

/**
 * Fits the cos² law. `null` for fewer than three different angles (modulo 180°), or angles that can't tell its three unknowns.
 *
 * @param points ratios above 0
 */
export function fitRing(points: readonly RingPoint[]): RingFit | null {
  if (points.length < 3 || distinctAngles(points.map((one) => one.degrees)) < 3) return null;
  const own = points.map((one) => Math.max(LEAST_U, one.relativeU));
  const plain = solve(points, own, 0);
  if (!plain) return null;
  const freedom = points.length - 3;
  const reduced = freedom > 0 ? plain.chi2 / freedom : NaN;
  let best = plain;
  let scatter: RingFit['scatter'] = null;
  if (freedom > 0 && significant(reduced, freedom)) {
    const angles = widened(points, freedom, 20, (size) => solve(points, own, size));
    const light = widened(points, freedom, 1, (size) =>
      solve(
        points,
        own.map((u) => Math.hypot(u, size)),
        0,
      ),
    );
    const chosen = angles && (!light || angles.solution.logLikelihood >= light.solution.logLikelihood) ? angles : light;
    if (chosen) {
      best = chosen.solution;
      scatter = { cause: chosen === angles ? 'ring angles' : 'light', size: chosen.size };
    }
  }
  return describe(points, own, best, reduced, freedom, scatter);
}

interface Solution {
  c: [number, number, number];
  /** Inverse of the normal matrix. */
  inverse: number[][];
  /** Of each point, absolute. */
  sigma: number[];
  chi2: number;
  logLikelihood: number;
}

const basisAt = (degrees: number) => [1, Math.cos(2 * radians(degrees)), Math.sin(2 * radians(degrees))] as const;
const valueAt = (c: readonly number[], degrees: number) =>
  basisAt(degrees).reduce((sum, basis, k) => sum + c[k] * basis, 0);
/** Change of the ratio for a degree more. */
const slopeAt = (c: readonly number[], degrees: number) =>
  (2 * Math.PI * (c[2] * Math.cos(2 * radians(degrees)) - c[1] * Math.sin(2 * radians(degrees)))) / 180;

/** Weighted least squares; weights follow the fitted curve, since uncertainties are relative to it. */
function solve(points: readonly RingPoint[], relative: readonly number[], angleU: number): Solution | null {
  let sigma = points.map((one, i) => one.ratio * relative[i]);
  let c: [number, number, number] = [0, 0, 0];
  let inverse: number[][] = [];
  for (let round = 0; round < 12; round++) {
    const normal = [0, 1, 2].map(() => [0, 0, 0]);
    const right = [0, 0, 0];
    points.forEach(({ degrees, ratio }, i) => {
      const basis = basisAt(degrees);
      const w = 1 / sigma[i] ** 2;
      for (let a = 0; a < 3; a++) {
        right[a] += w * basis[a] * ratio;
        for (let b = 0; b < 3; b++) normal[a][b] += w * basis[a] * basis[b];
      }
    });
    const columns = [0, 1, 2].map((k) =>
      solveLinear(
        normal,
        [0, 1, 2].map((i) => Number(i === k)),
      ),
    );
    const solved = solveLinear(normal, right);
    if (!solved || columns.some((column) => column === null || !column.every(Number.isFinite))) return null;
    inverse = [0, 1, 2].map((a) => columns.map((column) => column![a]));
    const change = Math.max(...solved.map((value, k) => Math.abs(value - c[k])));
    c = solved as [number, number, number];
    sigma = points.map(({ degrees, ratio }, i) => {
      // Where the curve comes out near or below zero the measured ratio holds the weight back.
      const level = Math.max(valueAt(c, degrees), 0.25 * ratio);
      return Math.hypot(level * relative[i], slopeAt(c, degrees) * angleU);
    });
    if (change < 1e-12) break;
  }
  let [chi2, logLikelihood] = [0, 0];
  points.forEach(({ degrees, ratio }, i) => {
    const departure = (ratio - valueAt(c, degrees)) / sigma[i];
    chi2 += departure ** 2;
    logLikelihood -= departure ** 2 / 2 + Math.log(sigma[i]);
  });
  return { c, inverse, sigma, chi2, logLikelihood };
}

/** The size of an extra scatter at which χ² is what chance gives; `null` where none in reach is enough. */
function widened(
  points: readonly RingPoint[],
  freedom: number,
  most: number,
  solveWith: (size: number) => Solution | null,
): { size: number; solution: Solution } | null {
  let [low, high] = [0, most];
  const end = solveWith(high);
  if (!end || end.chi2 > freedom) return null;
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2;
    const solution = solveWith(middle);
    if (!solution || solution.chi2 > freedom) low = middle;
    else high = middle;
  }
  const solution = solveWith(high);
  return solution && { size: high, solution };
}

function describe(
  points: readonly RingPoint[],
  own: readonly number[],
  { c, inverse, sigma }: Solution,
  reducedChi2: number,
  freedom: number,
  scatter: RingFit['scatter'],
): RingFit {
  const amplitude = Math.max(1e-12, Math.hypot(c[1], c[2]));
  const [top, bottom] = [c[0] + amplitude, c[0] - amplitude];
  const axis = turned(radiansToDegrees(Math.atan2(c[2], c[1])) / 2, 180);
  // ∂c/∂(log2 ratio_i) = C·b_i·w_i·ratio_i·ln 2; a stop more strength is a stop less ratio, hence the sign in `along`.
  const perStop = points.map(({ degrees }, i) => {
    const basis = basisAt(degrees);
    const level = Math.max(valueAt(c, degrees), 1e-12) * Math.LN2;
    return inverse.map((row) => (row.reduce((sum, value, b) => sum + value * basis[b], 0) / sigma[i] ** 2) * level);
  });
  const along = (gradient: readonly number[]) =>
    perStop.map((change) => -change.reduce((sum, value, k) => sum + gradient[k] * value, 0));
  const [u1, u2] = [c[1] / amplitude, c[2] / amplitude];
  const brightest = along([-1, -u1, -u2].map((one) => one / (top * Math.LN2)));
  const darkest = bottom > 0 ? along([-1, u1, u2].map((one) => one / (bottom * Math.LN2))) : points.map(() => Infinity);
  const toDegrees = 90 / Math.PI / amplitude;
  return {
    brightest: -Math.log2(top),
    darkest: bottom > 0 ? -Math.log2(bottom) : Infinity,
    mean: -Math.log2(c[0]),
    axisDegrees: axis,
    at: (degrees) => valueAt(c, degrees),
    residualStops: Math.sqrt(
      points.reduce(
        (sum, { degrees, ratio }) => sum + Math.log2(ratio / Math.max(valueAt(c, degrees), 1e-12)) ** 2,
        0,
      ) / points.length,
    ),
    reducedChi2,
    freedom,
    scatter,
    scatterStops: points.map(({ degrees }, i) => {
      const level = Math.max(valueAt(c, degrees), 1e-12);
      return Math.sqrt(Math.max(0, (sigma[i] / level) ** 2 - own[i] ** 2)) / Math.LN2;
    }),
    sensitivities: {
      brightest,
      darkest,
      extinction: darkest.map((one, i) => one - brightest[i]),
      axis: along([0, -u2 * toDegrees, u1 * toDegrees]),
      mean: along([-1 / (c[0] * Math.LN2), 0, 0]),
    },
  };
}

const radiansToDegrees = (angle: number) => (angle * 180) / Math.PI;

/** The ring angles in [0, 180) at which a fit gives this ratio; none where it lies beyond the extremes. */
export function anglesOf(fit: RingFit, ratio: number): number[] {
  const [top, bottom] = [2 ** -fit.brightest, Number.isFinite(fit.darkest) ? 2 ** -fit.darkest : 0];
  const share = (ratio - bottom) / (top - bottom);
  if (!(share >= -0.02 && share <= 1.02)) return [];
  const away = radiansToDegrees(Math.acos(Math.sqrt(Math.min(1, Math.max(0, share)))));
  return [fit.axisDegrees - away, fit.axisDegrees + away].map((one) => turned(one, 180));
}

/** Distance of two ring angles, modulo 180°, in [0, 90]. */
export function ringDistance(a: number, b: number): number {
  return Math.abs(wayBetween(a, b, 180));
}

/** A point farther from where its ratio belongs than this many degrees is doubted. Our own judgement. */
const DOUBTFUL_DEGREES = 3;

/**
 * The points that don't belong to the curve of the others: leaving one out must explain nearly all of a misfit. At most a quarter of
 * them, and never from fewer than five.
 *
 * @returns indices, with the curve of the others
 */
export function doubtfulPoints(points: readonly RingPoint[]): { doubtful: number[]; fit: RingFit | null } {
  const doubtful: number[] = [];
  let fit = fitRing(points);
  while (fit && points.length - doubtful.length >= 5 && doubtful.length < points.length / 4) {
    if (!significant(fit.reducedChi2, fit.freedom)) break;
    const left = [...points.keys()].filter((i) => !doubtful.includes(i));
    const without = left
      .map((i) => ({ i, fit: fitRing(left.filter((j) => j !== i).map((j) => points[j])) }))
      .filter((one): one is { i: number; fit: RingFit } => one.fit !== null);
    const chi2 = (one: RingFit) => (one.freedom > 0 ? one.reducedChi2 * one.freedom : 0);
    const best = [...without].sort((a, b) => chi2(a.fit) - chi2(b.fit))[0];
    if (!best) break;
    const saved = chi2(fit) - chi2(best.fit);
    const remaining = Math.max(1, chi2(best.fit) / Math.max(1, best.fit.freedom));
    const { degrees, ratio } = points[best.i];
    const places = anglesOf(best.fit, ratio);
    const away = places.length > 0 ? Math.min(...places.map((one) => ringDistance(one, degrees))) : 90;
    if (saved < 25 * remaining || away < DOUBTFUL_DEGREES) break;
    doubtful.push(best.i);
    fit = best.fit;
  }
  return { doubtful, fit };
}

/** Where a row of evenly spread angles may begin against the axis: shares of a step. */
const BEGINNINGS = [0.05, 0.2, 0.35, 0.5, 0.65, 0.8, 0.95];

/**
 * What evenly spread angles would leave uncertain: standard uncertainties for a number of angles over 180°, for an extinction and
 * points of one relative uncertainty, over all ways in which they may lie to the axis.
 */
export function ringDesign(
  angles: number,
  extinctionStops: number,
  relativeU: number,
): { brightest: number; darkest: number; axisDegrees: number } {
  const least = 2 ** -extinctionStops;
  const fits = BEGINNINGS.map((begin) =>
    fitRing(
      Array.from({ length: angles }, (_, i) => {
        const degrees = (180 * (i + begin)) / angles;
        return { degrees, ratio: least + (1 - least) * Math.cos(radians(degrees)) ** 2, relativeU };
      }),
    ),
  ).filter((fit) => fit !== null);
  const u = (pick: (sensitivities: RingSensitivities) => readonly number[]) =>
    (Math.hypot(...fits.map((fit) => Math.hypot(...pick(fit.sensitivities)))) * relativeU) /
    Math.LN2 /
    Math.sqrt(fits.length);
  return { brightest: u((s) => s.brightest), darkest: u((s) => s.darkest), axisDegrees: u((s) => s.axis) };
}
