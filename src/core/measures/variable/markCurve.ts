/** The marks of a variable ND against what they really take: a monotone curve, where the cross begins, what turning back costs. */
import { mean } from '../../formulas/statistics/averages';
import { decodeCurve } from '../../formulas/transfer/transfer';

/** One mark as measured. */
export interface MeasuredMark {
  mark: number;
  stops: number;
  /** Standard uncertainty, stops. */
  u: number;
  /** Largest less smallest of the ratio map, stops; absent where no field was shot. */
  unevenness?: number;
  /** Axis of the cos 2φ pattern, degrees. */
  axisDegrees?: number;
}

/** Stops between marks. */
export interface MarkCurve {
  /** Whether a higher mark is darker. */
  rising: boolean;
  /** Stops at any mark between the first and the last; beyond them the end is held. */
  stopsAt(mark: number): number;
  /** The mark that takes these stops; `null` beyond the ends. */
  markFor(stops: number): number | null;
  /** Largest departure of a mark from the monotone fit, stops. */
  residualStops: number;
}

/** Unevenness from which a crossed pattern counts as begun, in stops (half a just visible corner loss). Our own judgement. */
export const CROSS_BEGINS = 0.1;

/** Pools neighbors that fall until the row rises: isotonic least squares (pool adjacent violators). */
function isotonic(values: readonly number[], weights: readonly number[]): number[] {
  const blocks: { value: number; weight: number; count: number }[] = [];
  values.forEach((value, i) => {
    blocks.push({ value, weight: weights[i], count: 1 });
    while (blocks.length > 1 && blocks[blocks.length - 2].value > blocks[blocks.length - 1].value) {
      const last = blocks.pop()!;
      const before = blocks.pop()!;
      const weight = last.weight + before.weight;
      blocks.push({
        value: (last.value * last.weight + before.value * before.weight) / weight,
        weight,
        count: last.count + before.count,
      });
    }
  });
  return blocks.flatMap(({ value, count }) => new Array<number>(count).fill(value));
}

/** The monotone curve through marks; `null` for fewer than two different ones. */
export function markCurve(marks: readonly MeasuredMark[]): MarkCurve | null {
  const row = [...marks].sort((a, b) => a.mark - b.mark);
  if (row.length < 2 || row[0].mark === row[row.length - 1].mark) return null;
  const rising = row[row.length - 1].stops >= row[0].stops;
  const sign = rising ? 1 : -1;
  const fitted = isotonic(
    row.map((one) => sign * one.stops),
    row.map((one) => 1 / Math.max(1e-6, one.u) ** 2),
  );
  // From its own lowest point up: a curve of light never goes below zero, and what falls is below it here.
  const [lowest] = fitted;
  const cubic = decodeCurve(row.map((one, i) => [one.mark, fitted[i] - lowest] as const));
  const [first, last] = [row[0].mark, row[row.length - 1].mark];
  const stopsAt = (mark: number) => sign * (lowest + cubic(Math.min(last, Math.max(first, mark))));
  return {
    rising,
    stopsAt,
    markFor(stops) {
      const wanted = sign * stops;
      if (wanted < fitted[0] || wanted > fitted[fitted.length - 1]) return null;
      let [low, high] = [first, last];
      for (let i = 0; i < 60; i++) {
        const middle = (low + high) / 2;
        if (sign * stopsAt(middle) < wanted) low = middle;
        else high = middle;
      }
      return (low + high) / 2;
    },
    residualStops: Math.max(...row.map((one, i) => Math.abs(sign * one.stops - fitted[i]))),
  };
}

export interface Crossing {
  /** Where unevenness passes a tenth of a stop, between marks by a straight line. */
  mark: number;
  stops: number;
  axisDegrees?: number;
}

/** Where the crossed pattern begins, going from light to dark; `null` where it never does. */
export function crossBegins(marks: readonly MeasuredMark[], curve: MarkCurve): Crossing | null {
  const row = marks
    .filter((one) => one.unevenness !== undefined)
    .sort((a, b) => (curve.rising ? a.mark - b.mark : b.mark - a.mark));
  const at = row.findIndex((one) => one.unevenness! > CROSS_BEGINS);
  if (at < 0) return null;
  const axis = row[at].axisDegrees === undefined ? {} : { axisDegrees: row[at].axisDegrees };
  if (at === 0) return { mark: row[0].mark, stops: curve.stopsAt(row[0].mark), ...axis };
  const [before, after] = [row[at - 1], row[at]];
  const share = (CROSS_BEGINS - before.unevenness!) / (after.unevenness! - before.unevenness!);
  const mark = before.mark + share * (after.mark - before.mark);
  return { mark, stops: curve.stopsAt(mark), ...axis };
}

/** One take of a mark in shooting order. */
export interface MarkedTake {
  mark: number;
  stops: number;
  /** Standard uncertainty by itself, stops. */
  u: number;
}

/**
 * Stops that a mark takes when approached from above less when approached from below, mean over the marks that were approached from both
 * sides; `null` where none was.
 */
export function hysteresis(takes: readonly MarkedTake[]): { stops: number; u: number; marks: number[] } | null {
  const sides = new Map<number, { up: MarkedTake[]; down: MarkedTake[] }>();
  takes.forEach((take, i) => {
    const before = takes[i - 1];
    if (!before || before.mark === take.mark) return;
    const entry = sides.get(take.mark) ?? { up: [], down: [] };
    (before.mark < take.mark ? entry.up : entry.down).push(take);
    sides.set(take.mark, entry);
  });
  const both = [...sides.entries()].filter(([, { up, down }]) => up.length > 0 && down.length > 0);
  if (both.length === 0) return null;
  const meanStops = (list: MarkedTake[]) => mean(list.map((one) => one.stops));
  const variance = (list: MarkedTake[]) => list.reduce((sum, one) => sum + one.u ** 2, 0) / list.length ** 2;
  return {
    stops: both.reduce((sum, [, { up, down }]) => sum + meanStops(down) - meanStops(up), 0) / both.length,
    u: Math.sqrt(both.reduce((sum, [, { up, down }]) => sum + variance(up) + variance(down), 0)) / both.length,
    marks: both.map(([mark]) => mark),
  };
}
