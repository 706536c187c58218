/**
 * Whether a camera changes contrast place by place: even squares of one level come out by what lies around them.
 *
 * Over the largest even gray surface of a bare picture, log2 of luma is fitted by a quadratic surface (light falls off) and by
 * the square's contrast with its surroundings; that part is the camera's.
 */
import { median } from 'd3-array';
import { fitLinear } from '../../formulas/statistics/leastSquares';
import { lumaAt, type PlaceGrid } from './placeGrid';

export interface LocalTone {
  /** Gain on contrast with the surroundings, and its standard uncertainty. */
  value: number;
  u: number;
  /** Luma of the surface that it was seen on, share of full scale of the code. */
  luma: number;
}

/**
 * How far a luma lies toward black and toward white of another, as ln L/L₀ and ln (1 − L)/(1 − L₀): cameras change contrast among the midtones
 * most, and the gain goes with powers of these shares that the estimate finds (0: everywhere alike, 1: in proportion).
 */
export function fromMiddle(luma: number, seen: number): [inDark: number, inLight: number] {
  const [at, from] = [luma, seen].map((one) => Math.min(1 - NEAREST, Math.max(NEAREST, one)));
  return [Math.log(at / from), Math.log((1 - at) / (1 - from))];
}

/** A code of 8 bits from either end. */
const NEAREST = 1 / 255;

/** Where nothing tells the luma: middle gray's. */
export const MIDDLE_LUMA = 0.5;

/** Squares of one surface that are needed, and the least spread of their contrast: a camera that flattens it leaves little. */
const LEAST = { squares: 40, contrast: 0.01 };
/** Light that falls off by no quadratic may follow the contrast by so much, stops. */
const FALLS_OFF_OTHERWISE = 0.0001;
/** Neighbors of one surface differ by less than one of these, stops of luma: what tells most is taken. */
const SAME_SURFACE = [0.03, 0.05, 0.08];
/** Left out: residuals this many times the median one. */
const OUTLIER = 6;
/** Neighboring squares err together: residuals count for this many times less. */
const TOGETHER = 4;

/**
 * @param squares even gray squares
 * @param contrastOf a square's luma over what lies around it, less one
 * @returns `null` where no even surface is large enough and has different surroundings
 */
export function findLocalTone(
  { code, columns, rows }: PlaceGrid,
  squares: readonly number[],
  contrastOf: (square: number) => number,
): LocalTone | null {
  const luma = (square: number) => Math.log2(lumaAt(code, square));
  const found = SAME_SURFACE.flatMap((most) => onSurface(most) ?? []);
  return found.sort((a, b) => a.u - b.u)[0] ?? null;

  function onSurface(most: number): LocalTone | null {
    const surfaces = connected(new Set(squares), columns, (a, b) => Math.abs(luma(a) - luma(b)) < most);
    const largest = surfaces.reduce<ReadonlySet<number>>((best, one) => (one.size > best.size ? one : best), new Set());
    // Beside something else the lens's blur and the camera's sharpening reach in.
    const level = [...largest].filter((square) =>
      neighbors(square, columns).every((near) => largest.has(near) || near < 0 || near >= columns * rows),
    );
    const first = fitted(level);
    if (!first) return null;
    // A speck, or a square that isn't quite even, would speak for all.
    const middle = median(first.left.map(Math.abs))!;
    const sound = level.filter((_, i) => Math.abs(first.left[i]) <= OUTLIER * Math.max(middle, 1e-6));
    return fitted(sound)?.tone ?? null;
  }

  /** The contrast's share of luma beside a quadratic surface, and what both leave. */
  function fitted(own: readonly number[]): { tone: LocalTone; left: number[] } | null {
    if (own.length < LEAST.squares) return null;
    const terms = own.map((square) => {
      const x = (2 * ((square % columns) + 0.5)) / columns - 1;
      const y = (2 * (Math.floor(square / columns) + 0.5)) / rows - 1;
      return [1, x, y, x * x, x * y, y * y];
    });
    const surface = [0, 1, 2, 3, 4, 5].map((term) => terms.map((one) => one[term]));
    const beside = (values: readonly number[]) => {
      const fit = fitLinear(surface, values);
      return fit && values.map((value, i) => value - fit.reduce((sum, k, term) => sum + k * surface[term][i], 0));
    };
    const [contrast, lumas] = [beside(own.map(contrastOf)), beside(own.map(luma))];
    if (!contrast || !lumas) return null;
    const power = contrast.reduce((sum, one) => sum + one * one, 0);
    if (Math.sqrt(power / own.length) < LEAST.contrast) return null;
    const slope = contrast.reduce((sum, one, i) => sum + one * lumas[i], 0) / power;
    const left = lumas.map((one, i) => one - slope * contrast[i]);
    const square = left.reduce((sum, one) => sum + one * one, 0) / (own.length - 7);
    const level = own.reduce((sum, square) => sum + lumaAt(code, square), 0) / own.length;
    return {
      tone: {
        luma: level,
        value: slope * Math.LN2,
        u: Math.sqrt((TOGETHER * square + own.length * FALLS_OFF_OTHERWISE ** 2) / power) * Math.LN2,
      },
      left,
    };
  }
}

/** Left, right, above, below; beyond the frame's sides a square is its own neighbor. */
function neighbors(square: number, columns: number): number[] {
  const x = square % columns;
  return [square - columns, square + columns, x > 0 ? square - 1 : square, x < columns - 1 ? square + 1 : square];
}

/** Squares that lead to each other over neighbors that are alike. */
function connected(
  squares: ReadonlySet<number>,
  columns: number,
  alike: (a: number, b: number) => boolean,
): Set<number>[] {
  const left = new Set(squares);
  const found: Set<number>[] = [];
  for (const first of squares) {
    if (!left.delete(first)) continue;
    const own = new Set([first]);
    for (const square of own)
      for (const near of neighbors(square, columns))
        if (left.has(near) && alike(square, near)) {
          left.delete(near);
          own.add(near);
        }
    found.push(own);
  }
  return found;
}
