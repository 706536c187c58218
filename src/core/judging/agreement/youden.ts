/** Two filters measured by several benches: what a bench does to both alike, and what it does to one (Youden 1959, “Graphical diagnosis”). */
import { median } from '../../formulas/statistics/averages';
import { sampleDeviation } from '../../formulas/statistics/algorithmA';

export interface BenchPair {
  bench: string;
  /** Figures of the first and of the second filter. */
  first: number;
  second: number;
}

export interface YoudenPoint extends BenchPair {
  /** Along the diagonal: what both filters share, in the unit of the figures. */
  both: number;
  /** Across it: half of what the one has more than the other. */
  one: number;
  outside: boolean;
}

export interface YoudenPlot {
  /** Medians of the benches: the lines cross there. */
  center: readonly [first: number, second: number];
  /** Circle that holds 95 % of the benches, were they off by chance alone. */
  radius: number;
  points: YoudenPoint[];
}

/** √(−2·ln 0.05): so many deviations hold 95 % of a round normal distribution. */
const CIRCLE_95 = Math.sqrt(-2 * Math.log(0.05));
/** Of fewer benches no circle can be told. */
export const LEAST_BENCHES = 3;

/** The plot's points, its cross and its circle; `null` for fewer than three benches. */
export function youdenOf(pairs: readonly BenchPair[]): YoudenPlot | null {
  if (pairs.length < LEAST_BENCHES) return null;
  const center = [median(pairs.map(({ first }) => first)), median(pairs.map(({ second }) => second))] as const;
  // What is by chance lies across the diagonal as well as along it, what a bench does to both only along it.
  const radius = CIRCLE_95 * (sampleDeviation(pairs.map(({ first, second }) => first - second)) / Math.SQRT2);
  const points = pairs.map((pair) => {
    const [dx, dy] = [pair.first - center[0], pair.second - center[1]];
    return { ...pair, both: (dx + dy) / 2, one: (dx - dy) / 2, outside: Math.hypot(dx, dy) > radius };
  });
  return { center, radius, points };
}
