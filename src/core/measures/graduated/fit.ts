/**
 * A graduated filter: a logistic in luminous stops across a straight line, fitted to the map of stops over a field (formats.md,
 * "graduation"). Lengths are in heights of the frame.
 */
import { mean } from '../../formulas/statistics/averages';
import { wayBetween } from '../../formulas/geometry/angles';
import { solveLinear } from '../../formulas/statistics/leastSquares';

/** A map of stops over a grid of cells; places are in heights of the frame from the frame's center, right and down. */
export interface StopsField {
  /** Where each column of cells begins, and the last one's end; the same for rows. */
  xEdges: ArrayLike<number>;
  yEdges: ArrayLike<number>;
  /** Row by row. */
  stops: Float64Array;
  /** Standard deviation of a cell's noise at `stops` = 0, stops; it grows as the light falls. */
  noise: number;
  /** What each cell's stops depart by, all together, for one standard uncertainty of something that isn't known. */
  doubt?: Float64Array;
}

/** Five numbers: clear stops, dense less clear, distance of the line from the center, angle (radians), log of the scale. */
type Parameters = [number, number, number, number, number];
/** What a figure changes by with each of them. */
type Gradient = readonly [number, number, number, number, number];

interface LineFigures {
  clear: number;
  dense: number;
  midline: number;
  transitionWidth: number;
  angleDegrees: number;
}

export interface GraduationFit {
  clear: number;
  dense: number;
  /** From the top of the frame at its center column; NaN where the line runs nearly upright. */
  midline: number;
  /** 10–90 % in stops, across the line. */
  transitionWidth: number;
  /** 0 is dense on top, positive clockwise as seen, (−180, 180]. */
  angleDegrees: number;
  /** Standard uncertainties of noise and misfit. */
  u: LineFigures;
  /** By how much the figures depart where the cells depart by {@link StopsField.doubt}; none: zeros. */
  moved: LineFigures;
  /** Root mean square of what the fit leaves, stops, beside what noise explains. */
  residualStops: number;
  noiseStops: number;
  /** Share of dense (0 clear, 1 dense) of each cell. */
  shares: Float64Array;
  /** Distance of each cell from the line towards the dense side. */
  distances: Float64Array;
}

/** 10–90 % of a logistic of scale 1. */
export const WIDTH_OF_SCALE = 2 * Math.log(9);
const ROUNDS = 60;
/** Gauss points of a cell each way, and their shares: the mean of light over a cell isn't the light at its middle. */
const AT = [-Math.sqrt(0.6) / 2, 0, Math.sqrt(0.6) / 2] as const;
const SHARE = [5 / 18, 8 / 18, 5 / 18] as const;
/** Fewer stops between the halves than this is no graduation. */
const LEAST_STOPS = 0.1;
/** What neighboring cells of a misfit have in common: that many cells count as one. */
const CELLS_IN_COMMON = 50;
/** Cells that share a column's or a row's rounding are not wholly independent: simulated fields. */
const MARGIN = 1.5;

/** A cell: its middle, width and height. */
type Cell = readonly [x: number, y: number, width: number, height: number];

function cellsOf({ xEdges, yEdges }: StopsField): Cell[] {
  const [columns, rows] = [xEdges.length - 1, yEdges.length - 1];
  return Array.from({ length: columns * rows }, (_, i): Cell => {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    return [
      (xEdges[column] + xEdges[column + 1]) / 2,
      (yEdges[row] + yEdges[row + 1]) / 2,
      xEdges[column + 1] - xEdges[column],
      yEdges[row + 1] - yEdges[row],
    ];
  });
}

/** Stops of each cell under the model, light averaged over the cell. */
function modelOf([clear, step, offset, angle, logScale]: Parameters, cells: readonly Cell[]): Float64Array {
  const [nx, ny] = [Math.sin(angle), -Math.cos(angle)];
  const scale = Math.exp(logScale);
  const values = new Float64Array(cells.length);
  for (let i = 0; i < cells.length; i++) {
    const [x, y, cellWidth, cellHeight] = cells[i];
    let light = 0;
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++) {
        const distance = (x + AT[a] * cellWidth) * nx + (y + AT[b] * cellHeight) * ny - offset;
        light += SHARE[a] * SHARE[b] * Math.exp((-Math.LN2 * step) / (1 + Math.exp(-distance / scale)));
      }
    values[i] = clear - Math.log2(light);
  }
  return values;
}

/** Fits a graduation; `null` where the field shows none. */
export function fitGraduation(field: StopsField): GraduationFit | null {
  const places = cellsOf(field);
  const start = firstGuess(field, places);
  if (!start) return null;
  const weights = Float64Array.from(field.stops, (stops) => 2 ** -Math.max(0, stops));
  const model = (p: Parameters) => modelOf(p, places);
  const cost = (values: Float64Array) =>
    values.reduce((sum, value, i) => sum + weights[i] * (field.stops[i] - value) ** 2, 0);
  const { parameters, inverse } = levenbergMarquardt(start, model, cost, field.stops, weights);
  const values = model(parameters);
  const [clear, step, offset, angle, logScale] = parameters;
  if (!(Math.abs(step) > LEAST_STOPS)) return null;

  const count = places.length;
  const variance = cost(values) / (count - 5);
  const noise2 = field.noise ** 2;
  // What noise doesn't explain is a shape the logistic hasn't: many cells stray together.
  const perCell = MARGIN * Math.max(noise2, variance) + CELLS_IN_COMMON * Math.max(0, variance - 1.3 * noise2);
  const u = (gradient: Gradient) =>
    Math.sqrt(
      Math.max(
        0,
        perCell *
          gradient.reduce((sum, a, i) => sum + gradient.reduce((part, b, j) => part + a * b * inverse[i][j], 0), 0),
      ),
    );
  // Gauss and Newton's step for cells that stray together.
  const changes = field.doubt && derivatives(parameters, model, values);
  const pulled = changes?.map((one) => one.reduce((sum, value, i) => sum + weights[i] * value * field.doubt![i], 0));
  const strayed = pulled && inverse.map((row) => row.reduce((sum, value, j) => sum + value * pulled[j], 0));
  const moved = (gradient: Gradient) => Math.abs(gradient.reduce((sum, a, i) => sum + a * (strayed?.[i] ?? 0), 0));
  const upright = Math.abs(Math.cos(angle)) < 0.1;
  const scale = Math.exp(logScale);
  const [nx, ny] = [Math.sin(angle), -Math.cos(angle)];
  const distances = Float64Array.from(places, ([x, y]) => x * nx + y * ny - offset);
  const figures = (of: (gradient: Gradient) => number): LineFigures => ({
    clear: of([1, 0, 0, 0, 0]),
    dense: of([1, 1, 0, 0, 0]),
    midline: upright ? NaN : of([0, 0, 1 / Math.cos(angle), (offset * Math.sin(angle)) / Math.cos(angle) ** 2, 0]),
    transitionWidth: of([0, 0, 0, 0, WIDTH_OF_SCALE * scale]),
    angleDegrees: (of([0, 0, 0, 1, 0]) * 180) / Math.PI,
  });
  return {
    clear,
    dense: clear + step,
    midline: upright ? NaN : 0.5 - offset / Math.cos(angle),
    transitionWidth: WIDTH_OF_SCALE * scale,
    angleDegrees: wayBetween(0, (angle * 180) / Math.PI),
    u: figures(u),
    moved: figures(moved),
    residualStops: Math.sqrt(cost(values) / weights.reduce((sum, one) => sum + one, 0)),
    noiseStops: field.noise,
    shares: distances.map((distance) => 1 / (1 + Math.exp(-distance / scale))),
    distances,
  };
}

/** Ends from the extremes, direction from a plane through the map, width from how much of it lies between. */
function firstGuess({ stops }: StopsField, places: readonly Cell[]): Parameters | null {
  const sorted = [...stops].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.round(share * (sorted.length - 1))];
  const [clear, dense] = [at(0.02), at(0.98)];
  if (dense - clear < LEAST_STOPS) return null;
  const [mx, my, ms] = [mean(places.map((one) => one[0])), mean(places.map((one) => one[1])), mean(stops)];
  let [sxx, sxy, syy, sxs, sys] = [0, 0, 0, 0, 0];
  places.forEach(([x, y], i) => {
    sxx += (x - mx) ** 2;
    sxy += (x - mx) * (y - my);
    syy += (y - my) ** 2;
    sxs += (x - mx) * (stops[i] - ms);
    sys += (y - my) * (stops[i] - ms);
  });
  const plane = solveLinear(
    [
      [sxx, sxy],
      [sxy, syy],
    ],
    [sxs, sys],
  );
  if (!plane) return null;
  const angle = Math.atan2(plane[0], -plane[1]);
  const [nx, ny] = [Math.sin(angle), -Math.cos(angle)];
  const along = places.map(([x, y]) => x * nx + y * ny);
  const [low, high] = [clear + 0.2 * (dense - clear), clear + 0.8 * (dense - clear)];
  const middle = along.filter((_, i) => stops[i] > low && stops[i] < high);
  const span = Math.max(...along) - Math.min(...along);
  const offset =
    middle.length > 0
      ? mean(middle)
      : Math.max(...along) - span * (stops.filter((one) => one > high).length / stops.length);
  const scale = middle.length > 0 ? Math.max(0.01, (Math.max(...middle) - Math.min(...middle)) / 4) : 0.01;
  return [clear, dense - clear, offset, angle, Math.log(scale)];
}

/** Damped Gauss–Newton (Marquardt 1963) with numerical derivatives. */
function levenbergMarquardt(
  start: Parameters,
  model: (p: Parameters) => Float64Array,
  cost: (values: Float64Array) => number,
  data: Float64Array,
  weights: Float64Array,
): { parameters: Parameters; inverse: number[][] } {
  let parameters = start;
  let values = model(parameters);
  let least = cost(values);
  let damping = 1e-3;
  let normal: number[][] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const columns = derivatives(parameters, model, values);
    normal = columns.map((a) => columns.map((b) => a.reduce((sum, value, i) => sum + weights[i] * value * b[i], 0)));
    const right = columns.map((a) => a.reduce((sum, value, i) => sum + weights[i] * value * (data[i] - values[i]), 0));
    let improved = false;
    for (let attempt = 0; attempt < 12 && !improved; attempt++) {
      const damped = normal.map((row, i) => row.map((value, j) => (i === j ? value * (1 + damping) : value)));
      const change = solveLinear(damped, right);
      const next = change && (parameters.map((value, k) => value + change[k]) as Parameters);
      const nextValues = next && next[4] < 3 && next[4] > -9 ? model(next) : null;
      const nextCost = nextValues ? cost(nextValues) : Infinity;
      if (nextCost < least) {
        improved = true;
        const gain = (least - nextCost) / least;
        [parameters, values, least] = [next!, nextValues!, nextCost];
        damping = Math.max(1e-9, damping / 10);
        if (gain < 1e-10) round = ROUNDS;
      } else damping *= 10;
    }
    if (!improved) break;
  }
  const inverse = [0, 1, 2, 3, 4].map((k) =>
    solveLinear(
      normal,
      [0, 1, 2, 3, 4].map((i) => Number(i === k)),
    ),
  );
  const spoiled = inverse.some((column) => column === null);
  return { parameters, inverse: inverse.map((column) => (spoiled ? [0, 0, 0, 0, 0].map(() => NaN) : column!)) };
}

/** What the model's values change by with each parameter. */
function derivatives(
  parameters: Parameters,
  model: (p: Parameters) => Float64Array,
  values: Float64Array,
): Float64Array[] {
  const step = 1e-5;
  return parameters.map((_, k) => {
    const shifted = parameters.map((value, i) => (i === k ? value + step : value)) as Parameters;
    return model(shifted).map((value, i) => (value - values[i]) / step);
  });
}

/** Hard, medium or soft by the width of the transition; bounds are our own judgement. */
export function transitionInWords(width: number): 'hard' | 'medium' | 'soft' {
  if (width < 0.1) return 'hard';
  return width < 0.25 ? 'medium' : 'soft';
}
