/** How a figure changes over the years: a straight line through sittings that each have a ± of their own. */
import { coverageFactor } from '../../formulas/statistics/distributions';
import { LEAST_U, meanOfReadings } from '../../formulas/statistics/means';
import type { Reading } from '../../session/readings';

/** One sitting's figure; `at` in years from any day. */
export interface Moment {
  at: number;
  reading: Reading;
}

/** `open`: a change that anybody would notice can't be excluded, nor is one seen. */
export type ChangeWord = 'changed' | 'perhaps changed' | 'steady' | 'open';

export interface Change {
  /** From the first sitting to the last, by the line. */
  over: Reading;
  /** A year; absent where the sittings lie less than half a year apart, which would be a forecast. */
  perYear?: Reading;
  /** The line at the first and at the last sitting. */
  first: Reading;
  last: Reading;
  /** Scatter about the line over what the ± say (Birge 1932); 0 for two sittings, which have none. */
  birgeRatio: number;
  word: ChangeWord;
}

/** Sittings closer than this, years, tell no rate. */
const LEAST_SPAN = 0.5;
/** So many standard uncertainties make a change: of two dozen figures on a page one lies outside its 95 % by chance. */
const REAL = 3;

/**
 * Straight line by weights w = 1/u², whose slope has the variance 1/Σw(t − t̄)² (textbook least squares), widened by the Birge ratio and
 * Student's t at n − 2 where the sittings scatter by more than their ±.
 *
 * @param noticeable a change that somebody would notice: below it, ± included, a figure is called steady
 * @returns `null` for fewer than two sittings, or where all are of one day
 */
export function changeOf(moments: readonly Moment[], noticeable: number): Change | null {
  const from = Math.min(...moments.map(({ at }) => at));
  const span = Math.max(...moments.map(({ at }) => at)) - from;
  if (moments.length < 2 || !(span > 0)) return null;
  const u = moments.map(({ reading }) => Math.max(reading.u95 / 2, LEAST_U));
  const weights = u.map((one) => 1 / (one * one));
  const total = sum(weights);
  const middle = sum(moments.map(({ at }, i) => weights[i] * at)) / total;
  const mean = sum(moments.map(({ reading }, i) => weights[i] * reading.value)) / total;
  const spread = sum(moments.map(({ at }, i) => weights[i] * (at - middle) ** 2));
  const slope = sum(moments.map(({ at, reading }, i) => weights[i] * (at - middle) * (reading.value - mean))) / spread;
  const free = moments.length - 2;
  const chiSquared = sum(
    moments.map(({ at, reading }, i) => weights[i] * (reading.value - mean - slope * (at - middle)) ** 2),
  );
  const birgeRatio = free > 0 ? Math.sqrt(chiSquared / free) : 0;
  const k = birgeRatio > 1 ? birgeRatio * coverageFactor(free) : 2;
  const slopeU95 = k / Math.sqrt(spread);
  const on = (at: number): Reading => ({
    value: mean + slope * (at - middle),
    u95: k * Math.sqrt(1 / total + (at - middle) ** 2 / spread),
  });
  const over = { value: slope * span, u95: slopeU95 * span };
  return {
    over,
    ...(span >= LEAST_SPAN ? { perYear: { value: slope, u95: slopeU95 } } : {}),
    first: on(from),
    last: on(from + span),
    birgeRatio,
    word: wordOf(over, noticeable),
  };
}

function wordOf({ value, u95 }: Reading, noticeable: number): ChangeWord {
  const size = Math.abs(value);
  if (size > (REAL / 2) * u95) return 'changed';
  if (size > u95) return 'perhaps changed';
  return size + u95 < noticeable ? 'steady' : 'open';
}

/**
 * What a figure jumped by at a moment (dropped, cleaned): the next sitting less the one before. Sittings farther off would bring in what
 * changes slowly.
 *
 * @param birgeRatio of the line through all: where sittings scatter by more than their ±, so do these two
 * @returns `null` where one side has no sitting
 */
export function stepAt(moments: readonly Moment[], when: number, birgeRatio: number): Reading | null {
  const sorted = [...moments].sort((a, b) => a.at - b.at);
  const [before, after] = [sorted.filter(({ at }) => at < when).at(-1), sorted.find(({ at }) => at >= when)];
  if (!before || !after) return null;
  const u95 = Math.max(1, birgeRatio) * Math.hypot(before.reading.u95, after.reading.u95);
  return { value: after.reading.value - before.reading.value, u95 };
}

/** Mean of sittings, widened where they scatter by more than their ±; `null` for none. */
export function meanOf(moments: readonly Moment[]): Reading | null {
  if (moments.length === 0) return null;
  const { value, u95 } = meanOfReadings(moments.map(({ reading }) => reading));
  return { value, u95 };
}

/**
 * A filter's sittings with the bench's own change taken out: what a control filter read in the same sitting beside its own mean.
 * Sittings without the control are left out.
 *
 * @param control by sitting
 */
export function withoutBench<T extends Moment & { session: string }>(
  moments: readonly T[],
  control: ReadonlyMap<string, Moment>,
): T[] {
  const usual = meanOf([...control.values()]);
  if (!usual) return [];
  return moments.flatMap((one) => {
    const beside = control.get(one.session)?.reading;
    if (!beside) return [];
    const reading = {
      value: one.reading.value - (beside.value - usual.value),
      u95: Math.hypot(one.reading.u95, beside.u95),
    };
    return [{ ...one, reading }];
  });
}

const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
