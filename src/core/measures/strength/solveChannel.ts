/**
 * From ratio maps of pairs to the light of each picture at the frame's center, a filter's fall of light over the frame, and the lens's own
 * fall, which a change of pose lets show: log ratio = level of the first − level of the second + G(x) + V(x) − V(x in the second), with
 * G the filter's and V the lens's, both even in the radius, G with a tilt. Least squares, robustly: what a cloud's shadow or a mover
 * covers falls out.
 */
import { median } from '../../formulas/statistics/averages';
import { diagonal, zeroCovariance, type Covariance } from '../../formulas/statistics/covariance';
import { solveLinear } from '../../formulas/statistics/leastSquares';
import { type RatioMap, REASONS } from '../../laying/ratioMap';

/** A pair of pictures by their places in a list of pictures. */
export interface Pair {
  first: number;
  second: number;
  map: RatioMap;
  /** Whether the first was shot through the filter. */
  filtered: boolean;
}

/** A lens's fall of light: stops by the second, fourth and sixth power of the radius (half diagonals), and how well they are known. */
export interface LensFall {
  terms: [number, number, number];
  /** Inverse of their covariance, 3 × 3. */
  information: number[][];
}

export interface SolvedChannel {
  /** log2 light at the center, per picture; those of `known` as they were given. */
  levels: Float64Array;
  /** Of each picture: what parts of the frame are off by, told apart (NaN where one tells nothing), and how much more the center is
   * uncertain than a plain mean over the frame. */
  sectors: Float64Array<ArrayBufferLike>[];
  leverage: Float64Array;
  /** Of each picture's level at the center, stops², were all cells independent: see {@link ALIKE}. */
  variance: Float64Array;
  /** Of the filter: r², r⁴, r⁶, tilt along x and y (stops, half diagonals). */
  shade: [number, number, number, number, number];
  lens: LensFall;
  /** Root mean square of what is left, stops. */
  residual: number;
  /** Covariance of the shade's five terms, stops². */
  shadeCovariance: number[][];
  /** Per pair: cells that the fit left out. */
  outliers: Uint8Array[];
}

/** Standard deviations before anything is measured, stops: a filter's terms, its tilt, a lens's terms. Our own judgement. */
const PRIOR = { shade: 0.5, tilt: 0.02, lens: 1 };
const ROUNDS = 8;
/** Neighboring cells err alike: so many of them tell as much as one. Found on simulated walks. */
export const ALIKE = 6;
/** Where so few parts of the frame tell, the fit takes up most of their scatter: its own variance speaks then. */
const FEW_SECTORS = 6;
/** Parts of the frame whose scatter tells how well a level is known. */
const SECTORS = { across: 4, down: 3 };
const USED = REASONS.indexOf('used');

interface Row {
  pair: number;
  cell: number;
  terms: [index: number, value: number][];
  value: number;
  weight: number;
}

/** Where the unknowns stand: levels by picture, from `shadeAt` on the filter's five terms, then the lens's three. */
interface Slots {
  levelOf: ReadonlyMap<number, number>;
  shadeAt: number;
}

/** A pair's cells that are used, as rows of the equations. */
function rowsOf(
  { first, second, map, filtered }: Pair,
  at: number,
  channel: number,
  { slots, known, aspect }: { slots: Slots; known: ReadonlyMap<number, number>; aspect: number },
): Row[] {
  const { shadeAt } = slots;
  const lensAt = shadeAt + 5;
  const diagonal = Math.hypot(1, aspect);
  const rows: Row[] = [];
  for (let cell = 0; cell < map.reason.length; cell++) {
    if (map.reason[cell] !== USED || !Number.isFinite(map.channels[channel][cell])) continue;
    const x = ((2 * ((cell % map.columns) + 0.5)) / map.columns - 1) / diagonal;
    const y = (((2 * (Math.floor(cell / map.columns) + 0.5)) / map.rows - 1) * aspect) / diagonal;
    const own = x * x + y * y;
    const other = (map.x[cell] ** 2 + map.y[cell] ** 2) / diagonal ** 2;
    const terms: Row['terms'] = [];
    let value = map.channels[channel][cell];
    for (const [picture, sign] of [
      [first, 1],
      [second, -1],
    ] as const) {
      const slot = slots.levelOf.get(picture);
      if (slot === undefined) value -= sign * known.get(picture)!;
      else terms.push([slot, sign]);
    }
    if (filtered)
      terms.push([shadeAt, own], [shadeAt + 1, own ** 2], [shadeAt + 2, own ** 3], [shadeAt + 3, x], [shadeAt + 4, y]);
    terms.push([lensAt, own - other], [lensAt + 1, own ** 2 - other ** 2], [lensAt + 2, own ** 3 - other ** 3]);
    rows.push({ pair: at, cell, terms, value, weight: 1 / map.u[cell] ** 2 });
  }
  return rows;
}

/** What is known before anything is measured, as normal equations around a center. */
function priorOf({ shadeAt }: Slots, lens?: LensFall): { prior: number[][]; center: number[] } {
  const lensAt = shadeAt + 5;
  const size = lensAt + 3;
  const prior = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  const center = new Array<number>(size).fill(0);
  for (let k = 0; k < size; k++) prior[k][k] = 1e-6;
  for (let k = 0; k < 3; k++) prior[shadeAt + k][shadeAt + k] = 1 / PRIOR.shade ** 2;
  for (let k = 3; k < 5; k++) prior[shadeAt + k][shadeAt + k] = 1 / PRIOR.tilt ** 2;
  for (let k = 0; k < 3; k++) {
    center[lensAt + k] = lens?.terms[k] ?? 0;
    for (let l = 0; l < 3; l++)
      prior[lensAt + k][lensAt + l] = lens ? lens.information[k][l] : k === l ? 1 / PRIOR.lens ** 2 : 0;
  }
  return { prior, center };
}

/**
 * @param count of pictures
 * @param known levels that are known already, by picture; at least one picture of each connected group must be
 * @param lens the lens's fall, where it is known
 */
export function solveChannel(
  pairs: readonly Pair[],
  channel: number,
  count: number,
  known: ReadonlyMap<number, number>,
  aspect: number,
  lens?: LensFall,
): SolvedChannel {
  const unknown = Array.from({ length: count }, (_, i) => i).filter(
    (i) => !known.has(i) && pairs.some((pair) => pair.first === i || pair.second === i),
  );
  const slots: Slots = { levelOf: new Map(unknown.map((picture, slot) => [picture, slot])), shadeAt: unknown.length };
  const { shadeAt } = slots;
  const lensAt = shadeAt + 5;
  const size = lensAt + 3;
  const rows = pairs.flatMap((pair, at) => rowsOf(pair, at, channel, { slots, known, aspect }));
  const { prior, center } = priorOf(slots, lens);
  const { solution, normal, robust, scale } = fitRobustly(rows, size, prior, center, pairs.length);
  const levels = new Float64Array(count);
  const sectors: SolvedChannel['sectors'] = Array.from({ length: count }, () =>
    new Float64Array(SECTORS.across * SECTORS.down).fill(NaN),
  );
  const leverage = new Float64Array(count).fill(1);
  const variance = new Float64Array(count);
  known.forEach((level, picture) => (levels[picture] = level));
  const residuals = rows.map((row) => row.value - row.terms.reduce((sum, [k, value]) => sum + value * solution[k], 0));
  unknown.forEach((picture, slot) => {
    levels[picture] = solution[slot];
    sectors[picture] = sectorsOf(picture, { pairs, rows, residuals, robust });
    variance[picture] = varianceOf(slot, normal);
    leverage[picture] = Math.min(9, Math.max(1, variance[picture] * normal[slot][slot]));
  });
  const covariance = (start: number, length: number) =>
    Array.from({ length }, (_, a) => {
      const unit = new Array<number>(size).fill(0);
      unit[start + a] = 1;
      const column = solveLinear(normal, unit) ?? new Array<number>(size).fill(1);
      return Array.from({ length }, (_, b) => column[start + b]);
    });
  const outliers = pairs.map(({ map }) => new Uint8Array(map.reason.length));
  rows.forEach((row, i) => {
    if (robust[i] < 0.1) outliers[row.pair][row.cell] = 1;
  });
  return {
    levels,
    sectors,
    leverage,
    variance,
    shade: solution.slice(shadeAt, shadeAt + 5) as SolvedChannel['shade'],
    lens: {
      terms: solution.slice(lensAt) as LensFall['terms'],
      information: inverse(covariance(lensAt, 3)),
    },
    residual: scale,
    shadeCovariance: covariance(shadeAt, 5),
    outliers,
  };
}

function fitRobustly(
  rows: readonly Row[],
  size: number,
  prior: readonly (readonly number[])[],
  center: readonly number[],
  pairs: number,
) {
  let solution = center.slice();
  let robust: Float64Array = new Float64Array(rows.length).fill(1);
  let normal: number[][] = [];
  let scale = 0;
  const residualsOf = () =>
    rows.map((row) => row.value - row.terms.reduce((sum, [k, value]) => sum + value * solution[k], 0));
  for (let round = 0; round < ROUNDS; round++) {
    normal = prior.map((row) => [...row]);
    const right = prior.map((row) => row.reduce((sum, value, k) => sum + value * center[k], 0));
    // What cells scatter beyond their own u is shared by all: it keeps a few sure cells from speaking alone.
    const shared = round === 0 ? 0.05 : scale;
    for (let i = 0; i < rows.length; i++) {
      const { terms, value, weight: own } = rows[i];
      if (robust[i] === 0) continue;
      const weight = robust[i] / (1 / own + shared * shared);
      for (let a = 0; a < terms.length; a++) {
        const k = terms[a][0];
        const part = weight * terms[a][1];
        right[k] += part * value;
        const line = normal[k];
        for (let b = 0; b < terms.length; b++) line[terms[b][0]] += part * terms[b][1];
      }
    }
    solution = solveLinear(normal, right) ?? solution;
    const residuals = residualsOf();
    if (round === 0) {
      // A first look for the middle of each pair, which a shadow over a part of the frame must not pull. One over a third passes for the
      // filter's own fall of light all the same; then the parts of the frame scatter, and the ± is wide.
      const middles = Array.from({ length: pairs }, (_, pair) =>
        median(residuals.filter((_, i) => rows[i].pair === pair)),
      );
      residuals.forEach((value, i) => (residuals[i] = value - middles[rows[i].pair]));
    }
    const sizes = residuals.map(Math.abs);
    scale = Math.max(0.003, 1.4826 * median(sizes));
    robust = Float64Array.from(residuals, (value, i) => {
      const own = Math.hypot(scale, Math.sqrt(1 / rows[i].weight));
      const t = value / ((round < 3 ? 6 : 4.7) * own);
      return t * t >= 1 ? 0 : (1 - t * t) ** 2;
    });
  }
  return { solution, normal, robust, scale };
}

/** What parts of the frame are off by for one picture: whatever moved, was laid wrongly or lies in another light. */
function sectorsOf(
  picture: number,
  parts: { pairs: readonly Pair[]; rows: readonly Row[]; residuals: readonly number[]; robust: ArrayLike<number> },
): Float64Array {
  const { pairs, rows, residuals, robust } = parts;
  const [sums, weights] = [0, 1].map(() => new Float64Array(SECTORS.across * SECTORS.down));
  rows.forEach((row, i) => {
    const { first, second, map } = pairs[row.pair];
    if (first !== picture && second !== picture) return;
    const [column, line] = [row.cell % map.columns, Math.floor(row.cell / map.columns)];
    const sector =
      Math.floor((line * SECTORS.down) / map.rows) * SECTORS.across +
      Math.floor((column * SECTORS.across) / map.columns);
    const weight = robust[i] * row.weight;
    sums[sector] += (first === picture ? 1 : -1) * weight * residuals[i];
    weights[sector] += weight;
  });
  const total = weights.reduce((sum, one) => sum + one, 0);
  return sums.map((sum, i) => (weights[i] > 0.01 * total ? sum / weights[i] : NaN));
}

/** The center's variance through the fit, by the normal equations. */
function varianceOf(slot: number, normal: number[][]): number {
  const unit = new Array<number>(normal.length).fill(0);
  unit[slot] = 1;
  return solveLinear(normal, unit)?.[slot] ?? Infinity;
}

/** Covariance of the three channels' levels of one picture, stops², from the scatter of the parts of its frame. */
export function levelCovariance(channels: readonly SolvedChannel[], picture: number): Covariance {
  const sectors = channels.map((one) => one.sectors[picture]);
  const told = [...sectors[0].keys()].filter((i) => sectors.every((one) => Number.isFinite(one[i])));
  const out = zeroCovariance();
  // Too few parts to tell by: so wide that what rests on it alone is withheld.
  if (told.length < 3) return diagonal([0.5, 0.5, 0.5]);
  for (let a = 0; a < 3; a++)
    for (let b = 0; b < 3; b++) {
      const sum = told.reduce((total, i) => total + sectors[a][i] * sectors[b][i], 0);
      const leverage = Math.sqrt(channels[a].leverage[picture] * channels[b].leverage[picture]);
      out[3 * a + b] = (leverage * sum) / (told.length - 1) / told.length;
    }
  if (told.length <= FEW_SECTORS)
    channels.forEach(({ variance }, c) => (out[4 * c] = Math.max(out[4 * c], ALIKE * variance[picture])));
  return out;
}

function inverse(matrix: number[][]): number[][] {
  const columns = matrix.map((_, k) =>
    solveLinear(
      matrix,
      matrix.map((_row, i) => (i === k ? 1 : 0)),
    ),
  );
  return matrix.map((_, i) => columns.map((column) => column?.[i] ?? 0));
}
