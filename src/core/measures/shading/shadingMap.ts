/**
 * What a filter adds to the lens's own falloff: the ratio map filtered/bare over an even field, its corners, radial profile,
 * hot spot and unevenness. Definitions: formats.md, "shading"; ISO 17957:2015 is the standard on shading measurement.
 */
import { luminousCompression } from '../../light/camera/compression';
import type { LogSum } from '../../light/recover';
import type { ResolvedResponse, ResponseDoubt } from '../../light/response';
import { propagate } from '../../formulas/statistics/covariance';
import { combine, reading } from '../../formulas/statistics/budget';
import { hotSpot, placeOf, radialFit, radialProfile, rounded } from './radial';
import type { BudgetLine, Reading } from '../../session/readings';
import { cellNoises, unevenness } from './unevenness';
import {
  cellEdges,
  CORNERS,
  COARSE_COLUMNS,
  FINE,
  SQUARES,
  type Corner,
  type FieldStatistics,
  type Square,
} from './field';

/** A corner less certain than this is withheld (formats.md), in stops. */
const WIDEST_CORNER_U95 = 0.1;
/** A difference over the field from which all that the curve leaves open counts, stops. Our own judgement. */
const FULL_DIFFERENCE = 0.1;
/** The fit that a hot spot is judged against keeps clear of it. */
const CLEAR_OF_CENTER = 0.2;

export interface FieldShading {
  scene: string;
  corners: Partial<Record<Corner, Reading>>;
  worst?: Reading;
  profile: [number, number][];
  hotSpot: Reading;
  unevenness: Reading & { axisDegrees: number };
  /** Root mean square of what an even radial polynomial with a tilt leaves, in stops. */
  fitResidual: number;
  /** log2 S on a grid, row by row, for drawing. */
  map: { columns: number; rows: number; stops: number[] };
  /** The lens's own falloff on the same grid: bare light, stops from the center. */
  lens: { columns: number; rows: number; stops: number[]; worst: number };
  withheld: Corner[];
  /** The largest source of uncertainty of a corner that is withheld. */
  mostly?: string;
  /** Where the ± of the darkest corner comes from. */
  budget: BudgetLine[];
}

/** One field picture with its weight; weights of bare pictures are those of the light's interpolation, adding up to one. */
export interface WeightedField {
  field: FieldStatistics;
  weight: number;
}

/** Strength of a filter over a field relative to its center square, per channel: stops of each fine cell. */
export interface StrengthMap {
  columns: number;
  rows: number;
  /** Stops of R, G, B above those of the center square. */
  channels: [Float64Array, Float64Array, Float64Array];
  /** Noise of a cell near the center, luminous, stops. */
  noise: number;
}

/** The map of a filter's strength per channel, for filters that aren't meant to be even. */
export function strengthMap(
  filtered: readonly WeightedField[],
  bare: readonly WeightedField[],
  luminance: readonly number[],
): StrengthMap {
  const { columns, rows } = filtered[0].field;
  const [front, back] = [logMean(filtered), logMean(bare)];
  const channels = [0, 1, 2].map((c) => {
    const center = front.squares.center[c] - back.squares.center[c];
    return front.cells[c].map((value, i) => center - (value - back.cells[c][i]));
  }) as StrengthMap['channels'];
  const luminous = channels[0].map(
    (_, i) => -Math.log2(luminance.reduce((sum, weight, c) => sum + weight * 2 ** -channels[c][i], 0)),
  );
  return { columns, rows, channels, noise: localNoise(luminous, columns, rows, 'center') };
}

/** Mean log2 light of several pictures: cells and squares, per channel. */
interface LogField {
  cells: Float64Array[];
  squares: Record<Square, number[]>;
}

/**
 * Shading of a filter on one flat scene.
 *
 * @param filtered, bare pictures of one size, weights adding up to one in each
 * @param luminance weights of R, G, B in luminance
 * @param response what a recovered or learned response leaves uncertain
 */
export function measureShading(
  scene: string,
  filtered: readonly WeightedField[],
  bare: readonly WeightedField[],
  luminance: readonly number[],
  response: ResponseDoubt | null = null,
): FieldShading {
  const [shape] = filtered.map((one) => one.field);
  const { columns, rows } = shape;
  const [front, back] = [logMean(filtered), logMean(bare)];
  const ratio = (f: readonly number[], b: readonly number[]) =>
    Math.log2(luminance.reduce((sum, weight, c) => sum + weight * 2 ** (f[c] - b[c]), 0));
  const center = ratio(front.squares.center, back.squares.center);
  const at = ({ cells }: LogField, i: number) => cells.map((channel) => channel[i]);
  const map = Float64Array.from({ length: columns * rows }, (_, i) => ratio(at(front, i), at(back, i)) - center);
  const coarse = coarseRatios(front, back, shape, luminance, center);
  const squareNoise = (square: Square) =>
    localNoise(map, columns, rows, square) * Math.sqrt(shape.cellPixels / shape.squarePixels);
  const centerNoise = squareNoise('center');
  const rounding = (square: Square) =>
    Math.hypot(...[filtered, bare].map((fields) => roundingOf(fields, square, luminance)));
  const compression = (square: Square) => compressionOf(filtered, bare, square, luminance);
  const corners: Partial<Record<Corner, Reading>> = {};
  const withheld: Corner[] = [];
  let mostly: string | undefined;
  // What the curve leaves open over the field, at most.
  let curve = 0;
  const budgets = new Map<Corner, BudgetLine[]>();
  for (const corner of CORNERS) {
    const value = ratio(front.squares[corner], back.squares[corner]) - center;
    const responded = response?.covariance ? responseU(filtered, bare, corner, luminance, response.covariance) : 0;
    const uncertainty = combine([
      { source: 'noise', u: squareNoise(corner), degreesOfFreedom: 150 },
      { source: 'noise at the center', u: centerNoise, degreesOfFreedom: 150 },
      { source: 'rounding', u: Math.hypot(rounding(corner), rounding('center')), degreesOfFreedom: Infinity },
      { source: 'compression', u: Math.hypot(compression(corner), compression('center')), degreesOfFreedom: Infinity },
      {
        source: 'response',
        u: responded,
        degreesOfFreedom: Infinity,
      },
    ]);
    budgets.set(corner, uncertainty.lines);
    curve = Math.max(curve, responded);
    if (uncertainty.u95 > WIDEST_CORNER_U95) {
      withheld.push(corner);
      mostly ??= uncertainty.lines[0]?.source;
    } else corners[corner] = reading(value, uncertainty);
  }
  const darkest = CORNERS.filter((corner) => corners[corner]).sort((a, b) => corners[a]!.value - corners[b]!.value)[0];
  const lowest = darkest && corners[darkest];
  const fit = radialFit(map, columns, rows, shape, CLEAR_OF_CENTER);
  const cellNoise = localNoise(map, columns, rows, 'center');
  const lens = lensFalloff(back, shape, luminance);
  const spot = hotSpot(map, columns, rows, shape, fit, cellNoise);
  const placed = (i: number) => placeOf(i, coarse.columns, coarse.rows, shape);
  const uneven = unevenness(coarse, cellNoises(map, columns, rows), placed);
  return {
    scene,
    corners,
    ...(withheld.length === 0 && lowest ? { worst: lowest } : {}),
    profile: radialProfile(map, columns, rows, shape),
    hotSpot: widened(spot, curve * shareOf(spot), compression('center')),
    unevenness: widened(
      uneven,
      curveOver(coarse, luminance, response) ?? curve * shareOf(uneven),
      compression('center'),
    ),
    fitResidual: fit.residual,
    map: { columns: coarse.columns, rows: coarse.rows, stops: [...coarse.values].map(rounded) },
    lens,
    withheld,
    ...(mostly ? { mostly } : {}),
    budget: (darkest && budgets.get(darkest)) ?? [],
  };
}

/** What the corners leave open of the curve counts by how large a difference is. */
const shareOf = ({ value }: Reading) => Math.min(1, Math.abs(value) / FULL_DIFFERENCE);

/** A difference between cells with what the curve and compression leave open of it, stops. */
function widened<T extends Reading>(reading: T, curve: number, compression: number): T {
  return { ...reading, u95: Math.hypot(reading.u95, 2 * curve, 2 * Math.SQRT2 * compression) };
}

function logMean(fields: readonly WeightedField[]): LogField {
  const count = fields[0].field.cells[0].length;
  const cells = [0, 1, 2].map((c) => {
    const sums = new Float64Array(count);
    for (const { field, weight } of fields)
      for (let i = 0; i < count; i++) sums[i] += weight * Math.log2(Math.max(field.cells[c][i], 1e-12));
    return sums;
  });
  const squares = Object.fromEntries(
    SQUARES.map((square) => [
      square,
      [0, 1, 2].map((c) =>
        fields.reduce(
          (sum, { field, weight }) => sum + weight * Math.log2(Math.max(field.squares[square][c], 1e-12)),
          0,
        ),
      ),
    ]),
  ) as Record<Square, number[]>;
  return { cells, squares };
}

/** What compression leaves of a square in filtered and bare pictures, luminous, stops. */
function compressionOf(
  filtered: readonly WeightedField[],
  bare: readonly WeightedField[],
  square: Square,
  luminance: readonly number[],
): number {
  const of = (fields: readonly WeightedField[]) =>
    fields.reduce(
      (sum, { field, weight }) => sum + weight * luminousCompression(field.compression?.[square], luminance),
      0,
    );
  return Math.hypot(of(filtered), of(bare));
}

/** Rounding leaves the same error in every repeat; by luminance, in stops. */
function roundingOf(fields: readonly WeightedField[], square: Square, luminance: readonly number[]): number {
  const relative = luminance.map(
    (weight, c) => weight * fields.reduce((sum, one) => sum + one.weight * one.field.rounding[square][c], 0),
  );
  return Math.hypot(...relative) / Math.LN2;
}

/** What a recovered response leaves uncertain in a corner's ratio over the center's, by luminance, in stops. */
function responseU(
  filtered: readonly WeightedField[],
  bare: readonly WeightedField[],
  corner: Corner,
  luminance: readonly number[],
  covariance: NonNullable<ResolvedResponse['covariance']>,
): number {
  const code = (fields: readonly WeightedField[], square: Square, c: number) =>
    fields.reduce((sum, one) => sum + one.weight * one.field.codes[square][c], 0);
  const sum = (c: number): LogSum => [
    [code(filtered, corner, c), 1],
    [code(filtered, 'center', c), -1],
    [code(bare, corner, c), -1],
    [code(bare, 'center', c), 1],
  ];
  return Math.sqrt(propagate(covariance([sum(0), sum(1), sum(2)]), luminance));
}

/** Mean light of the coarse cells, per channel: fine cells by the pixels in them. */
function coarseLight({ cells }: LogField, { columns, rows, width, height }: FieldStatistics) {
  const [w, h] = [COARSE_COLUMNS, rows / FINE];
  const [xEdges, yEdges] = [cellEdges(columns, width), cellEdges(rows, height)];
  const channels = cells.map((channel) => {
    const [sums, counts] = [new Float64Array(w * h), new Float64Array(w * h)];
    channel.forEach((light, i) => {
      const [x, y] = [i % columns, Math.floor(i / columns)];
      const pixels = (xEdges[x + 1] - xEdges[x]) * (yEdges[y + 1] - yEdges[y]);
      const cell = Math.floor(y / FINE) * w + Math.floor(x / FINE);
      sums[cell] += pixels * 2 ** light;
      counts[cell] += pixels;
    });
    return sums.map((sum, i) => sum / counts[i]);
  });
  return { columns: w, rows: h, channels };
}

/** The 20-column map: log2 of the luminance-weighted ratios of mean levels, above the center's. */
function coarseRatios(
  front: LogField,
  back: LogField,
  shape: FieldStatistics,
  luminance: readonly number[],
  center: number,
) {
  const [f, b] = [coarseLight(front, shape), coarseLight(back, shape)];
  const values = f.channels[0].map(
    (_, i) =>
      Math.log2(luminance.reduce((sum, weight, c) => sum + (weight * f.channels[c][i]) / b.channels[c][i], 0)) - center,
  );
  return { columns: f.columns, rows: f.rows, values, front: f.channels, back: b.channels };
}

/** What a learned response leaves of the map's brightest cell against its darkest, by luminance, stops; `null` of any other. */
function curveOver(
  { values, front, back }: ReturnType<typeof coarseRatios>,
  luminance: readonly number[],
  response: ResponseDoubt | null,
): number | null {
  if (!response?.covarianceOfLight) return null;
  const [low, high] = [values.indexOf(Math.min(...values)), values.indexOf(Math.max(...values))];
  const sum = (c: number): LogSum => [
    [Math.log2(front[c][high]), 1],
    [Math.log2(front[c][low]), -1],
    [Math.log2(back[c][high]), -1],
    [Math.log2(back[c][low]), 1],
  ];
  return Math.sqrt(Math.max(0, propagate(response.covarianceOfLight([sum(0), sum(1), sum(2)]), luminance)));
}

/**
 * Noise of fine cells near a square, from second differences along rows: smooth shading leaves nothing in them.
 * Var(a − 2b + c) is six times the noise's.
 */
function localNoise(map: Float64Array, columns: number, rows: number, square: Square): number {
  const size = Math.min(16, columns - 2, rows);
  const left = square.endsWith('Left')
    ? 0
    : square.endsWith('Right')
      ? columns - size - 2
      : Math.floor((columns - size) / 2);
  const top = square.startsWith('top') ? 0 : square.startsWith('bottom') ? rows - size : Math.floor((rows - size) / 2);
  let sum = 0;
  for (let y = top; y < top + size; y++)
    for (let x = left; x < left + size; x++) {
      const i = y * columns + x;
      sum += (map[i] - 2 * map[i + 1] + map[i + 2]) ** 2;
    }
  return Math.sqrt(sum / (size * size) / 6);
}

function lensFalloff(bare: LogField, shape: FieldStatistics, luminance: readonly number[]) {
  const light = (channels: readonly number[]) =>
    Math.log2(luminance.reduce((sum, weight, c) => sum + weight * 2 ** channels[c], 0));
  const center = light(bare.squares.center);
  const coarse = coarseLight(bare, shape);
  const stops = coarse.channels[0].map(
    (_, i) => light(coarse.channels.map((channel) => Math.log2(channel[i]))) - center,
  );
  return {
    columns: coarse.columns,
    rows: coarse.rows,
    stops: [...stops].map(rounded),
    worst: rounded(Math.min(...CORNERS.map((corner) => light(bare.squares[corner]) - center))),
  };
}
