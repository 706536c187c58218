/** False color and contour lines of a map in stops: scale, levels, paths. */
import { contours } from 'd3-contour';

export interface StopGrid {
  columns: number;
  rows: number;
  /** Row by row. */
  stops: readonly number[];
}

/**
 * From as bright as the center (pale) to far darker (deep), in even steps of lightness, so that the order shows without hue
 * and to eyes that see few hues.
 */
const RAMP: readonly (readonly [number, number, number])[] = [
  [240, 232, 205],
  [222, 190, 112],
  [196, 138, 84],
  [150, 90, 98],
  [98, 62, 112],
  [48, 40, 78],
];
/** What is brighter than the center. */
const BRIGHTER = [214, 240, 236] as const;

const STEPS = [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2] as const;

/** The distance of contour lines that gives at most eight of them. */
export function contourStep(lowest: number, highest: number): number {
  return STEPS.find((step) => (highest - lowest) / step <= 8) ?? 4;
}

/**
 * Contour levels inside a map's range, whole multiples of the step, rising. The center's own level is left out where nothing
 * rises above it by a step: noise alone would draw it.
 */
export function contourLevels(lowest: number, highest: number, step: number): number[] {
  const levels: number[] = [];
  for (let k = Math.ceil(lowest / step); k * step <= highest; k++) levels.push(Math.round(k * step * 1000) / 1000);
  return levels.filter((level) => level !== 0 || highest >= step);
}

/**
 * Color of a place.
 *
 * @param darkest stops (negative) that the deepest color stands for
 */
export function colorOf(stops: number, darkest: number): string {
  const share = Math.min(1, Math.max(-1, stops / darkest));
  const at = Math.abs(share) * (RAMP.length - 1);
  const i = Math.min(RAMP.length - 2, Math.floor(at));
  const mix = (a: readonly number[], b: readonly number[], t: number) =>
    `rgb(${a.map((value, c) => Math.round(value + t * (b[c] - value))).join(' ')})`;
  return share < 0 ? mix(RAMP[0], BRIGHTER, -share) : mix(RAMP[i], RAMP[i + 1], at - i);
}

export interface Band {
  level: number;
  /** SVG path, in cells: everything at or above the level. */
  path: string;
}

/** Cells that the map's own border is carried on by: areas close beyond what is seen. */
const BEYOND = 2;

/** The areas at or above each level, lowest first: drawn over each other they make bands. */
export function bandsOf({ columns, rows, stops }: StopGrid, levels: readonly number[]): Band[] {
  const [wide, high] = [columns + 2 * BEYOND, rows + 2 * BEYOND];
  const inside = (at: number, count: number) => Math.min(count - 1, Math.max(0, at - BEYOND));
  const carried = Array.from(
    { length: wide * high },
    (_, i) => stops[inside(Math.floor(i / wide), rows) * columns + inside(i % wide, columns)],
  );
  return contours()
    .size([wide, high])
    .thresholds([...levels])(carried)
    .map(({ value, coordinates }) => ({
      level: value,
      path: coordinates
        .flatMap((polygon) =>
          polygon.map((ring) => `M${ring.map(([x, y]) => `${round(x - BEYOND)} ${round(y - BEYOND)}`).join('L')}Z`),
        )
        .join(''),
    }));
}

/** Figures closer than this, in shares of the map's width, would run into each other. */
const FIGURES_APART = 0.085;

/** Where levels cross the way from the center to the lower right corner, in cells: places for their figures. */
export function labelPlaces(
  { columns, rows, stops }: StopGrid,
  levels: readonly number[],
): { level: number; x: number; y: number }[] {
  const at = (t: number) => {
    const x = Math.min(columns - 1, Math.floor((0.5 + t / 2) * columns));
    const y = Math.min(rows - 1, Math.floor((0.5 + t / 2) * rows));
    return stops[y * columns + x];
  };
  const places: { level: number; x: number; y: number }[] = [];
  for (let t = 0.04; t <= 0.86; t += 0.02) {
    const [before, here] = [at(t - 0.02), at(t)];
    const crossed = levels.filter((one) => before >= one !== here >= one);
    const level = crossed.find((one) => !places.some((place) => place.level === one));
    const [x, y] = [(0.5 + t / 2) * columns, (0.5 + t / 2) * rows];
    const last = places[places.length - 1];
    if (level === undefined) continue;
    if (last && Math.hypot(x - last.x, y - last.y) < FIGURES_APART * columns) continue;
    places.push({ level, x, y });
  }
  return places;
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}
