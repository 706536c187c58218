/** What several benches say of one figure: where they agree, who is off, how many more would settle it. */
import { algorithmA, medianDeviation, sampleDeviation } from '../../formulas/statistics/algorithmA';
import { median } from '../../formulas/statistics/averages';
import { coverageFactor } from '../../formulas/statistics/distributions';
import { LEAST_U, meanOfReadings } from '../../formulas/statistics/means';
import type { Reading } from '../../session/readings';
import { combineSittings } from '../ranking/sittings';

export interface BenchResult {
  bench: string;
  reading: Reading;
}

/** `off` and `doubtful`: beyond its own ± and by what somebody would notice; `narrow`: beyond its ± alone, which then is too narrow. */
export type BenchWord = 'agrees' | 'narrow' | 'doubtful' | 'off';

export interface BenchScore extends BenchResult {
  /** Its distance from what the others say, with the ± of that distance. */
  off: Reading;
  /** Distance over its ± (ISO 13528:2015, 9.7): within −1…1 where both ± are honest. */
  en: number;
  /** Distance from the robust mean over half of what somebody would notice (ISO 13528:2015, 9.4, z): beyond 2 doubtful, beyond 3 off. */
  z: number;
  word: BenchWord;
}

export interface Consensus {
  /** Mean of those that aren't left out, weighted by 1/u², its ± widened by the Birge ratio and Student's t where they scatter by more than their ±. */
  weighted: Reading;
  /** Benches so far off that nothing is judged by them. */
  leftOut: string[];
  /** 1 where the benches scatter as their ± say (Birge 1932). */
  birgeRatio: number;
  /**
   * Algorithm A, of fewer than {@link LEAST_FOR_A} benches the median, which one of four that is far off doesn't move (ISO 13528:2015, annex C),
   * with the standard uncertainty 1.25·s*⁄√p (7.7.3); its ± is twice that.
   */
  robust: Reading;
  /** Between benches, robust, in the unit of the figure. */
  deviation: number;
  scores: BenchScore[];
  /** Further benches like these until the mean's ± is no wider than wanted: 0 where it is, `null` where more than {@link MOST_MORE}. */
  more: number | null;
}

export const MOST_MORE = 50;
/** One in four that are far off draws algorithm A along. */
const LEAST_FOR_A = 8;

/**
 * Consensus of at least two benches.
 *
 * Each E_n is taken against the weighted mean of the others, which its own result has no part in. Benches that lie far from the robust mean,
 * beyond both ±, are no part of it either: one that is off would make all others' distances uncertain. The z score takes half of what somebody would
 * notice as its standard deviation, since a handful of benches tells none: a bench that is off by what is noticed has |z| near 2.
 *
 * @param noticeable a difference that somebody would notice, in the unit of the figure, > 0
 * @param wanted the ± that would settle it
 * @returns `null` for fewer than two
 */
export function consensusOf(results: readonly BenchResult[], noticeable: number, wanted: number): Consensus | null {
  if (results.length < 2) return null;
  const values = results.map(({ reading }) => reading.value);
  const { mean, deviation } = robustOf(values);
  const robustU = (1.25 * deviation) / Math.sqrt(values.length);
  const sound = soundOf(results, { value: mean, u95: 2 * robustU }, noticeable);
  const { birgeRatio, ...weighted } = meanOfReadings(sound.map(({ reading }) => reading));
  const scores = results.map((one): BenchScore => {
    const others = othersOf(sound.filter((other) => other !== one));
    const off = {
      value: one.reading.value - others.value,
      u95: Math.hypot(Math.max(one.reading.u95, 2 * LEAST_U), others.u95),
    };
    const en = off.value / off.u95;
    const z = (one.reading.value - mean) / (noticeable / 2);
    return { ...one, off, en, z, word: wordOf(en, z) };
  });
  return {
    weighted,
    leftOut: results.filter((one) => !sound.includes(one)).map(({ bench }) => bench),
    birgeRatio,
    robust: { value: mean, u95: 2 * robustU },
    deviation,
    scores,
    more: moreFor(wanted, weighted.u95, sampleDeviation(sound.map(({ reading }) => reading.value)), sound.length),
  };
}

/** Results that others are judged by: all but those that are off the robust mean by z ≥ 3 and by more than both ±; all where fewer than two are left. */
function soundOf(results: readonly BenchResult[], robust: Reading, noticeable: number): readonly BenchResult[] {
  const sound = results.filter(({ reading }) => {
    const off = Math.abs(reading.value - robust.value);
    return off < 3 * (noticeable / 2) || off <= Math.hypot(reading.u95, robust.u95);
  });
  return sound.length >= 2 ? sound : results;
}

function robustOf(values: readonly number[]): { mean: number; deviation: number } {
  if (values.length >= LEAST_FOR_A) return algorithmA(values);
  return { mean: median(values), deviation: medianDeviation(values) };
}

function wordOf(en: number, z: number): BenchWord {
  // Whoever is within their own ± agrees, however wide it is: nothing else was said.
  if (Math.abs(en) <= 1) return 'agrees';
  if (Math.abs(z) >= 3) return 'off';
  return Math.abs(z) > 2 ? 'doubtful' : 'narrow';
}

/**
 * What the others say, widened by the Birge ratio alone: Student's t of the two or three that are left would be 14 or 4.5, and with it nobody
 * could be told to be off.
 */
function othersOf(results: readonly BenchResult[]): Reading {
  const { value, u95 } = combineSittings(results.map(({ bench, reading }) => ({ session: bench, reading })));
  return { value, u95 };
}

/** The mean of n benches that scatter by a deviation s has the ± t·s⁄√n: the least n for which that is no wider than wanted. */
function moreFor(wanted: number, now: number, deviation: number, count: number): number | null {
  if (now <= wanted) return 0;
  for (let more = 1; more <= MOST_MORE; more++) {
    const n = count + more;
    if ((coverageFactor(n - 1) * deviation) / Math.sqrt(n) <= wanted) return more;
  }
  return null;
}
