/** How one picture's MTF falls against another's, from the spectra of tiles that both show. */
import { median } from '../../formulas/statistics/averages';
import type { Homography } from '../../formulas/geometry/homography';
import { FREQUENCIES, type TileSpectrum } from './tileSpectra';

/** Geometric mean of two rows of spectra of one picture against two others, place by place. */
export function commonSpectra(
  first: readonly (TileSpectrum | null)[],
  second: readonly (TileSpectrum | null)[],
): (TileSpectrum | null)[] {
  return first.map((one, i) => {
    const other = second[i];
    if (!one || !other) return null;
    const mean = (key: 'cross' | 'crossX' | 'crossY') =>
      one[key].map((value, bin) => (value > 0 && other[key][bin] > 0 ? Math.sqrt(value * other[key][bin]) : 0));
    return {
      cross: mean('cross'),
      crossX: mean('crossX'),
      crossY: mean('crossY'),
      coherence: one.coherence.map((value, bin) => Math.min(value, other.coherence[bin])),
    };
  });
}

/** Fall of one picture's MTF against another's: r(f) = exp(−k f²). */
export interface Fall {
  k: number;
  u: number;
  /** Of patterns along x and along y alone: blur by movement falls in one direction. */
  x: number;
  y: number;
  tiles: number;
  /** What of `k` the views' zoom leaves unsure: of all pictures of a take alike. */
  zoomU: number;
}

/** Frequencies that the fit looks at, and how much of both pictures' power must be common to be above noise and codec. */
const BAND = { from: 0.05, to: 0.3 };
const LEAST_COHERENCE = 0.4;
const FEWEST_TILES = 3;

/**
 * The fall of the first row of tiles against the second, place by place; `null` where too few tell.
 *
 * @param power of the ratio of MTFs that the ratio of the spectra is: 2 where both are of one picture's kind each, 1 where the first has
 *   one of each
 * @param stretch by how much finer the second row's pictures see the scene (see `stretchOf`): the lens takes less of the same detail there,
 *   which is taken out by what the second row tells of the lens
 */
export function fallBetween(
  first: readonly (TileSpectrum | null)[],
  second: readonly (TileSpectrum | null)[],
  power: 1 | 2 = 2,
  stretch = 0,
): Fall | null {
  const told = first.flatMap((one, i) => {
    const other = second[i];
    if (!one || !other) return [];
    const [k, x, y] = (['cross', 'crossX', 'crossY'] as const).map((key) => kOf(one, other, key, power));
    return k === null ? [] : [{ k, x, y }];
  });
  if (told.length < FEWEST_TILES) return null;
  const { value, u } = robustMean(told.map(({ k }) => k));
  const lens = lensFall(second);
  const zoomed = stretch * lens.k;
  const along = (key: 'x' | 'y') => {
    const values = told.flatMap((one) => one[key] ?? []);
    return (values.length < FEWEST_TILES ? value : robustMean(values).value) - zoomed;
  };
  return {
    k: value - zoomed,
    u,
    x: along('x'),
    y: along('y'),
    tiles: told.length,
    zoomU: Math.abs(stretch) * lens.u,
  };
}

/**
 * Lenses with their sensors keep 0.45–0.85 at a quarter cycle a pixel, mostly; scenes' power falls by about the second power of the
 * frequency (D. J. Field, JOSA A 4, 1987, from memory). Spectra stray from such a line by their own detail.
 */
const LENS = { k: 8, u: 4.5 };
const SCENE = { slope: 2.3, u: 0.6 };
const STRAY = 0.3;
/** What a lens told so is off by: root mean square over painted scenes and photographs blurred by known amounts. */
const LEAST_LENS_U = 4;

/** The fall of a camera's own MTF, from spectra of a scene that it took: ln power = a − p ln f − 2 k f², with what is usual of k and p. */
export function lensFall(tiles: readonly (TileSpectrum | null)[]): { k: number; u: number } {
  const seen = tiles.flatMap((tile) => (tile ? [tile] : []));
  // Normal equations of p and k, each tile about its own mean.
  const of = [1 / SCENE.u ** 2, 0, 1 / LENS.u ** 2, SCENE.slope / SCENE.u ** 2, LENS.k / LENS.u ** 2];
  for (const { cross, coherence } of seen) {
    const share = neighborly(coherence);
    const rows = FREQUENCIES.flatMap((f, i) =>
      f >= BAND.from && f <= BAND.to && cross[i] > 0 && share[i] >= LEAST_COHERENCE
        ? [[-Math.log(f), -2 * f * f, Math.log(cross[i])]]
        : [],
    );
    if (rows.length < 5) continue;
    const [p, k, y] = [0, 1, 2].map((at) => rows.reduce((sum, row) => sum + row[at], 0) / rows.length);
    const weight = 1 / (STRAY ** 2 * seen.length);
    for (const row of rows) {
      const [dp, dk, dy] = [row[0] - p, row[1] - k, row[2] - y];
      of[0] += weight * dp * dp;
      of[1] += weight * dp * dk;
      of[2] += weight * dk * dk;
      of[3] += weight * dp * dy;
      of[4] += weight * dk * dy;
    }
  }
  const determinant = of[0] * of[2] - of[1] ** 2;
  const k = (of[0] * of[4] - of[1] * of[3]) / determinant;
  return { k, u: Math.max(LEAST_LENS_U, Math.sqrt(of[0] / determinant)) };
}

/**
 * How much finer pictures see a scene than the one they are laid on, as it bears on a fall: 1 − the mean of m⁻², where m are pixels of
 * theirs to one of its own, at its middle.
 */
export function stretchOf(homographies: readonly Homography[]): number {
  const area = (h: Homography) =>
    Math.abs((h[0] - h[2] * h[6]) * (h[4] - h[5] * h[7]) - (h[1] - h[2] * h[7]) * (h[3] - h[5] * h[6]));
  return 1 - homographies.reduce((sum, h) => sum + 1 / area(h), 0) / homographies.length;
}

/** Two tellings of one fall: their mean, as unsure as they are apart. */
export function meanFall(one: Fall, other: Fall): Fall {
  const mean = (key: 'k' | 'x' | 'y') => (one[key] + other[key]) / 2;
  return {
    k: mean('k'),
    u: Math.hypot(Math.hypot(one.u, other.u) / 2, (one.k - other.k) / 4),
    x: mean('x'),
    y: mean('y'),
    zoomU: (one.zoomU + other.zoomU) / 2,
    tiles: Math.min(one.tiles, other.tiles),
  };
}

/** Least squares of the log ratio on −f², by the power common to both. */
function kOf(one: TileSpectrum, other: TileSpectrum, key: 'cross' | 'crossX' | 'crossY', power: 1 | 2): number | null {
  let [top, bottom, n] = [0, 0, 0];
  // By their neighbors: a bin whose common power happens to be high must not have the more say for it.
  const [ownShare, otherShare] = [neighborly(one.coherence), neighborly(other.coherence)];
  FREQUENCIES.forEach((f, i) => {
    if (f < BAND.from || f > BAND.to || ownShare[i] < LEAST_COHERENCE || otherShare[i] < LEAST_COHERENCE) return;
    const ratio = one[key][i] / other[key][i];
    if (!(ratio > 0) || !Number.isFinite(ratio)) return;
    // Finer bins hold more frequencies, and what is common is surer than what isn't.
    const weight = f * (ownShare[i] * otherShare[i]) ** 2;
    const square = f * f;
    top -= (weight * square * Math.log(ratio)) / power;
    bottom += weight * square * square;
    n++;
  });
  return n >= 5 && bottom > 0 ? top / bottom : null;
}

/** Of each value the mean of the two before it and the two after it. */
function neighborly(values: ArrayLike<number>): number[] {
  return Array.from(values, (_, i) => {
    const near = [i - 2, i - 1, i + 1, i + 2].filter((at) => at >= 0 && at < values.length);
    return near.reduce((sum, at) => sum + values[at], 0) / near.length;
  });
}

/** Mean without outliers, and its standard uncertainty. */
export function robustMean(values: readonly number[]): { value: number; u: number } {
  const middle = median(values);
  const scale = Math.max(1e-9, 1.4826 * median(values.map((one) => Math.abs(one - middle))));
  let [sum, weights, squares] = [0, 0, 0];
  for (const value of values) {
    const t = (value - middle) / (4.7 * scale);
    if (t * t >= 1) continue;
    const weight = (1 - t * t) ** 2;
    sum += weight * value;
    weights += weight;
    squares += weight * weight;
  }
  const mean = sum / weights;
  let spread = 0;
  for (const value of values) {
    const t = (value - middle) / (4.7 * scale);
    if (t * t < 1) spread += (1 - t * t) ** 4 * (value - mean) ** 2;
  }
  const effective = (weights * weights) / squares;
  return {
    value: mean,
    u: Math.sqrt(spread / (weights * weights)) * Math.sqrt(effective / Math.max(1, effective - 1)),
  };
}
